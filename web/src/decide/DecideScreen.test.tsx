import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { openOn } from "../testing/open";
import { decide, seeking } from "../testing/views";
import { DecideScreen } from "./DecideScreen";

const heard = vi.hoisted(() => ({ typed: [] as unknown[] }));
vi.mock("../offline/core", async () => {
  const { coreSaying } = await import("../testing/core");
  const { decide } = await import("../testing/views");
  return coreSaying({
    decide: (typed) => {
      heard.typed.push(typed);
      return decide;
    },
  });
});

afterEach(cleanup);

const shown = () => openOn(seeking, (job) => <DecideScreen job={job} view={seeking} />);

describe("the decision", () => {
  it("takes the first advice by the touch that leads on", async () => {
    const { made } = shown();
    const [first] = decide.fits;
    fireEvent.click(await screen.findByRole("button", { name: new RegExp(`^${first?.accept?.label}`) }));
    await waitFor(() => expect(made).toEqual([first?.accept?.makes]));
    await waitFor(() => expect(screen.getByTestId("at")).toHaveTextContent(`/jobs/${seeking.job}`));
  });

  it("takes what was chosen instead, and records nothing by the choice", async () => {
    const { made } = shown();
    const fit = decide.fits.find((f) => !f.test);
    const cards = await screen.findAllByRole("button", { name: new RegExp(`^${fit?.title}`) });
    const [card] = cards;
    if (!card) throw new Error("the part has its card");
    fireEvent.click(card);
    expect(made).toEqual([]);
    fireEvent.click(screen.getByRole("button", { name: new RegExp(`^${fit?.accept?.label}`) }));
    await waitFor(() => expect(made).toEqual([fit?.accept?.makes]));
  });

  it("goes another way in", async () => {
    const { made } = shown();
    const way = decide.ways.find((w) => w.accept);
    fireEvent.click(await screen.findByRole("button", { name: way?.accept?.label }));
    await waitFor(() => expect(made).toEqual([way?.accept?.makes]));
  });

  it("asks the core anew with the customer’s figures as they are typed", async () => {
    shown();
    fireEvent.change(await screen.findByLabelText("New machine, installed"), { target: { value: "900" } });
    await waitFor(() => expect(heard.typed.at(-1)).toEqual({ new: "900" }));
  });
});
