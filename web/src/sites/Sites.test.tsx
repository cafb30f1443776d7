import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { jonna, mira, openAt } from "../testing/open";
import { answering, machine, places } from "../testing/server";
import { MachinePage } from "./MachinePage";
import { Sites } from "./Sites";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const write = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe("the sites", () => {
  it("are found by any word of a site or a machine", async () => {
    answering({ "GET /places": places });
    openAt(<Sites />);
    expect(await screen.findByText("School kitchen")).toBeVisible();
    write("Find: name, island, contact, model or serial", "ekvall");
    expect(screen.getAllByRole("article")).toHaveLength(1);
    write("Find: name, island, contact, model or serial", "no such thing");
    expect(screen.getByText("No site of ours is called that.")).toBeVisible();
  });

  it("are changed by a supervisor alone", async () => {
    answering({ "GET /places": places });
    openAt(<Sites />, "/", "*", jonna);
    await screen.findByText("School kitchen");
    expect(screen.queryByRole("button", { name: "Change School kitchen" })).toBeNull();
  });

  it("take a new machine with its options and the map that covers it", async () => {
    const sent = answering({ "GET /places": places, "POST /machines": {} });
    openAt(<Sites />, "/", "*", mira);
    fireEvent.click(await screen.findByRole("button", { name: "Add a machine at School kitchen" }));
    write("What it is called there", "dryer 2");
    write("Model", "TV6-230");
    fireEvent.click(screen.getByRole("button", { name: /^the one that covers the model/ }));
    fireEvent.click(await screen.findByRole("option", { name: "Tidemoor TV6 vented tumble dryer" }));
    fireEvent.click(screen.getByRole("button", { name: "Add the machine" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      what: "POST /machines",
      body: { site: "school", name: "dryer 2", model: "TV6-230", map: "tidemoor-tv6", options: {} },
    });
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("keep what was written when it cannot be kept", async () => {
    answering({ "GET /places": places, "POST /sites": { status: 422, problem: "A site needs a name." } });
    openAt(<Sites />, "/", "*", mira);
    fireEvent.click(await screen.findByRole("button", { name: "Add a site" }));
    write("Address", "Long Hill 9");
    fireEvent.click(within(screen.getByRole("dialog")).getByRole("button", { name: "Add the site" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("A site needs a name.");
    expect(screen.getByLabelText("Address")).toHaveValue("Long Hill 9");
  });
});

describe("a machine", () => {
  const at = "/machines/:machine";
  const answers = { "GET /machines/school-dryer": machine, "GET /places": places };

  it("says where it stands, how to get in, and what is next", async () => {
    answering(answers);
    openAt(<MachinePage />, "/machines/school-dryer", at);
    expect(await screen.findByText(/Ring at the kitchen door/)).toBeVisible();
    expect(within(screen.getByLabelText("Now")).getByText(/hums, but the drum stands still/)).toBeVisible();
    expect(screen.getByRole("link", { name: "+00 555 0102" })).toHaveAttribute("href", "tel:+005550102");
    fireEvent.click(screen.getByRole("button", { name: "Open the job j-103" }));
    expect(screen.getByTestId("at")).toHaveTextContent("/jobs/j-103");
  });

  it("takes an answer to an option, and takes it back", async () => {
    const sent = answering({ ...answers, "PUT /machines/school-dryer": {} });
    openAt(<MachinePage />, "/machines/school-dryer", at, mira);
    fireEvent.click(await screen.findByRole("button", { name: "Change" }));
    fireEvent.click(await screen.findByRole("radio", { name: "gas" }));
    fireEvent.click(screen.getByRole("radio", { name: "fitted" }));
    fireEvent.click(screen.getByRole("radio", { name: "fitted" }));
    fireEvent.click(screen.getByRole("button", { name: "Save the changes" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({ options: { fuel: "gas" }, version: 1 });
  });

  it("is said to be the same as another only once that one is chosen", async () => {
    const sent = answering({ ...answers, "POST /machines/school-dryer/merge": {} });
    openAt(<MachinePage />, "/machines/school-dryer", at, mira);
    fireEvent.click(await screen.findByRole("button", { name: "It is the same as another" }));
    expect(screen.getByRole("button", { name: "Choose the other one" })).toBeDisabled();
    write("Site, machine, model or serial", "tv6");
    const others = await screen.findAllByRole("button", { name: /TV6/ });
    const [other] = others;
    if (!other) throw new Error("another machine is found");
    expect(
      others.some((o) => o.textContent.includes("L-20977")),
      "never itself",
    ).toBe(false);
    fireEvent.click(other);
    fireEvent.click(screen.getByRole("button", { name: /^Merge it into / }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).not.toEqual({ into: "school-dryer" });
  });

  it("says what went wrong where there is none", async () => {
    answering({ "GET /machines/nobody": { status: 404, problem: "There is no such machine." } });
    openAt(<MachinePage />, "/machines/nobody", at);
    expect(await screen.findByRole("alert")).toHaveTextContent("There is no such machine.");
  });
});
