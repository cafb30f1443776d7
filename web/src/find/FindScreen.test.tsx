import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Find } from "../api/client";
import { openOn } from "../testing/open";
import { find, seeking } from "../testing/views";
import { FindScreen } from "./FindScreen";

const said = vi.hoisted(() => ({
  find: undefined as unknown,
  judge: undefined as ((read: unknown) => unknown) | undefined,
}));
vi.mock("../offline/core", async () => {
  const { coreSaying } = await import("../testing/core");
  return coreSaying({ find: () => said.find, judge: (read) => said.judge?.(read) });
});

afterEach(cleanup);

const shown = (over: Partial<Find> = {}) => {
  said.find = { ...find, ...over };
  return openOn(seeking, (job) => <FindScreen job={job} view={seeking} />);
};

describe("finding the fault", () => {
  it("shows the next test with its reason, and records what was seen by one touch", async () => {
    const { made } = shown();
    const advice = find.advice;
    expect(await screen.findByRole("heading", { name: advice?.title })).toHaveFocus();
    expect(screen.getByText(advice?.why ?? "")).toBeVisible();
    const [choice] = advice?.task?.choices ?? [];
    fireEvent.click(screen.getByRole("button", { name: choice?.label }));
    await waitFor(() => expect(made).toEqual([choice?.makes]));
  });

  it("shows another test where somebody would rather do that", async () => {
    const { made } = shown();
    const [other] = find.others;
    fireEvent.click(await screen.findByRole("button", { name: `Look at: ${other?.title}` }));
    expect(screen.getByRole("heading", { name: other?.title })).toBeVisible();
    expect(screen.getByText("Instead")).toBeVisible();
    expect(screen.getByRole("button", { name: `Look at: ${find.advice?.title}` })).toBeVisible();
    expect(made).toEqual([]);
  });

  it("says that a test cannot be done", async () => {
    const { made } = shown();
    fireEvent.click(await screen.findByRole("button", { name: /^Cannot/ }));
    await waitFor(() => expect(made).toEqual([[find.advice?.not_done]]));
  });

  it("takes back a result by its name", async () => {
    const { made } = shown({
      results: [{ event: "e-7", title: "Listen to it turning", say: "A thump" } as never],
    });
    fireEvent.click(await screen.findByRole("button", { name: "Take back: Listen to it turning" }));
    await waitFor(() => expect(made).toEqual([[{ kind: "withdrawn", body: { event: "e-7" } }]]));
  });

  it("warns where a result contradicts the others", async () => {
    shown({ contradiction: true });
    expect(await screen.findByRole("alert")).toHaveTextContent("Unexpected result. Repeat the test.");
  });

  it("leads back where nothing is left to find", async () => {
    shown({ advice: null as never, others: [], say: "Nothing is left to test." });
    expect(await screen.findByText("Nothing is left to test.")).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "Back to the steps" }));
    expect(screen.getByTestId("at")).toHaveTextContent(`/jobs/${seeking.job}`);
  });

  it("shows every suspect with how likely it is", async () => {
    shown();
    const aside = await screen.findByLabelText("Suspects and results");
    await waitFor(() => expect(within(aside).getByText(find.suspects[0]?.name ?? "none")).toBeVisible());
  });

  it("judges a reading as it is written, and records it as it was written", async () => {
    const advice = find.advice;
    const task = {
      ...advice?.task,
      choices: [],
      value: "21.2 ohm",
      asks: [{ key: "leads", label: "The leads add", example: "0.2 ohm", note: "", must: false }],
      done: {
        label: "",
        says: "",
        open: [],
        half: [],
        makes: [{ kind: "reading.taken", body: { test: "element-ohms" } }],
      },
    };
    const asked: unknown[] = [];
    said.judge = (read) => {
      asked.push(read);
      return {
        verdict: "high",
        outcome: "high",
        say: "40 Ω: too high (19.47 to 22.85 Ω).",
        scale: { low: 0.3, high: 0.7, at: 1, error: [1, 1], beyond: "right", marks: [], says: "40 Ω" },
      };
    };
    const { made } = shown({ advice: { ...advice, task } as unknown as Find["advice"] });
    fireEvent.change(await screen.findByLabelText(/^It reads/), { target: { value: " 40 ohm" } });
    expect(await screen.findByText("40 Ω: too high (19.47 to 22.85 Ω).")).toBeVisible();
    expect(screen.getByText("40 Ω")).toBeInTheDocument();
    expect(asked.at(-1)).toEqual({ test: "element-ohms", value: "40 ohm" });
    expect(made).toEqual([]);
    fireEvent.click(screen.getByRole("button", { name: /^Save the reading/ }));
    await waitFor(() =>
      expect(made).toEqual([[{ kind: "reading.taken", body: { test: "element-ohms", value: "40 ohm" } }]]),
    );
  });
});
