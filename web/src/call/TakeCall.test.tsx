import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { openAt } from "../testing/open";
import { answering, heard, heardGas, places } from "../testing/server";
import { TakeCall } from "./TakeCall";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

interface Heard {
  words: string;
  complaint?: string;
}

/** The call as it is taken, by a server that hears gas where it is said. */
const taking = (more: Parameters<typeof answering>[0] = {}) => {
  const sent = answering({
    "GET /places": places,
    "POST /calls/heard": (body) => {
      const { words, complaint } = body as Heard;
      if (words.includes("gas")) return heardGas;
      if (!words) return { ...heard, complaint: "" };
      return complaint ? { ...heard, complaint } : heard;
    },
    "POST /calls": { job: "j-900" },
    ...more,
  });
  openAt(<TakeCall />, "/call");
  return { sent, calls: () => sent.filter((s) => s.what === "POST /calls") };
};

const machine = places.places.find((p) => p.id === "school")?.machines[0];
const words = "it thumps and squeals";

const where = async () => {
  fireEvent.change(await screen.findByLabelText("Site, machine, model or serial"), {
    target: { value: "school dryer" },
  });
  fireEvent.click(await screen.findByRole("button", { name: /School kitchen, / }));
};
const say = (text: string) =>
  fireEvent.change(screen.getByLabelText("In the customer’s own words"), { target: { value: text } });

describe("a call", () => {
  it("says what is still open, and is not taken before", async () => {
    const { calls } = taking();
    const make = await screen.findByRole("button", { name: /^Still open: where the machine stands/ });
    expect(make).toBeDisabled();
    await where();
    await waitFor(() =>
      expect(
        screen.getByRole("button", { name: "Still open: what is wrong, in their words" }),
      ).toBeDisabled(),
    );
    expect(calls()).toEqual([]);
  });

  it("becomes a job with the machine, the words, what they mean, and who goes", async () => {
    const { calls } = taking();
    await where();
    say(words);
    const meant = await screen.findByRole("group", { name: "The complaint" });
    const first = heard.complaints.find((c) => c.id === heard.complaint);
    expect(
      within(meant).getByRole("button", { name: new RegExp(`^${first?.name}`), pressed: true }),
    ).toBeVisible();
    fireEvent.click(within(screen.getByLabelText("Who goes?")).getByRole("button", { name: /^Jonna/ }));
    fireEvent.click(await screen.findByRole("button", { name: "Make the job" }));
    await waitFor(() => expect(screen.getByTestId("at")).toHaveTextContent("/jobs/j-900"));
    expect(calls()).toHaveLength(1);
    expect(calls()[0]?.body).toMatchObject({
      site: "school",
      appliance: machine?.id,
      map: heard.map,
      complaint: heard.complaint,
      words,
      goes: ["jonna"],
    });
  });

  it("takes another complaint where somebody chose one, and one more beside it", async () => {
    const { calls } = taking();
    await where();
    say(words);
    const [, second] = heard.complaints.filter((c) => c.good);
    if (!second) throw new Error("two complaints are meant");
    fireEvent.click(await screen.findByRole("button", { name: `Also: ${second.name}` }));
    fireEvent.click(await screen.findByRole("button", { name: "Make the job" }));
    await waitFor(() => expect(calls()).toHaveLength(1));
    expect(calls()[0]?.body).toMatchObject({ complaint: heard.complaint, also: [second.id] });
  });

  it("with gas is not made before the caller was told", async () => {
    const { calls } = taking();
    await where();
    say("it smells of gas");
    const alarm = await screen.findByRole("alert");
    for (const line of heardGas.emergency.say) expect(alarm).toHaveTextContent(line);
    expect(
      await screen.findByRole("button", { name: "Still open: that the caller was told" }),
    ).toBeDisabled();
    fireEvent.click(screen.getByRole("button", { name: "I have told them this" }));
    fireEvent.click(await screen.findByRole("button", { name: "Make the job, out of use" }));
    await waitFor(() => expect(calls()).toHaveLength(1));
    expect(calls()[0]?.body).toMatchObject({ told: heardGas.emergency.kind });
  });

  it("keeps all that was written when the server does not answer", async () => {
    const { calls } = taking({ "POST /calls": { status: 503, problem: "The database does not answer." } });
    await where();
    say(words);
    fireEvent.click(await screen.findByRole("button", { name: "Make the job" }));
    await waitFor(() => expect(screen.getByText("The database does not answer.")).toBeVisible());
    expect(screen.getByLabelText("In the customer’s own words")).toHaveValue(words);
    expect(screen.getByTestId("at")).toHaveTextContent("/call");
    fireEvent.click(screen.getByRole("button", { name: "Make the job" }));
    await waitFor(() => expect(calls()).toHaveLength(2));
    const [one, two] = calls().map((c) => (c.body as { call: string }).call);
    expect(one, "sent again it is the same call").toBe(two);
  });

  it("on a machine that is new takes its site, its name and its model", async () => {
    const { calls } = taking();
    fireEvent.click(await screen.findByRole("button", { name: "A machine that is new here" }));
    fireEvent.click(screen.getByRole("radio", { name: "School kitchen" }));
    fireEvent.change(screen.getByLabelText("Name on site"), { target: { value: "dryer 2" } });
    fireEvent.change(screen.getByLabelText("Model, from the rating plate"), { target: { value: "BO2-230" } });
    say(words);
    fireEvent.click(await screen.findByRole("button", { name: "Make the job" }));
    await waitFor(() => expect(calls()).toHaveLength(1));
    expect(calls()[0]?.body).toMatchObject({ site: "school", name: "dryer 2", model: "BO2-230" });
    expect(calls()[0]?.body).not.toHaveProperty("appliance");
  });

  it("says that no machine is called so", async () => {
    taking();
    fireEvent.change(await screen.findByLabelText("Site, machine, model or serial"), {
      target: { value: "zzz" },
    });
    expect(await screen.findByText("No machine of ours is called that.")).toBeVisible();
  });
});
