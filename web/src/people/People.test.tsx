import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mira, openAt } from "../testing/open";
import { answering, people } from "../testing/server";
import { People } from "./People";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const shown = (answers: Parameters<typeof answering>[0] = {}) => {
  const sent = answering({ "GET /people": people, ...answers });
  openAt(<People />, "/people", "*", mira);
  return sent;
};
const write = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe("the people", () => {
  it("stand with their role and their tickets", async () => {
    shown();
    const ilse = (await screen.findByText("Ilse Brandmo")).closest("article");
    expect(ilse).toHaveTextContent("technician · signs in as ilse · tickets: gas");
  });

  it("get a code that is shown once", async () => {
    const ilse = people.people.find((p) => p.id === "ilse");
    const sent = shown({ "POST /people/ilse/code": { code: "AB12-CD34", person: ilse ?? {} } });
    fireEvent.click(await screen.findByRole("button", { name: "One-time code for Ilse Brandmo" }));
    const dialogue = await screen.findByRole("dialog", { name: "Code for Ilse Brandmo" });
    expect(dialogue).toHaveTextContent("AB12-CD34");
    expect(dialogue).toHaveTextContent("They sign in as ilse");
    fireEvent.click(within(dialogue).getByRole("button", { name: "I have told them" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(sent).toHaveLength(1);
  });

  it("are taken on with a name to sign in by, a role and tickets", async () => {
    const sent = shown({
      "POST /people": { code: "AB12-CD34", person: { name: "Arvo Lund", sign_in: "arvo-l" } },
    });
    fireEvent.click(await screen.findByRole("button", { name: "Add a person" }));
    write("Name", "Arvo Lund");
    write("Signs in as", "Arvo L");
    expect(screen.getByLabelText("Signs in as")).toHaveValue("arvo-l");
    fireEvent.click(screen.getByRole("radio", { name: "technician" }));
    fireEvent.click(screen.getByRole("button", { name: "+ gas" }));
    fireEvent.click(screen.getByRole("button", { name: "Add them" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      name: "Arvo Lund",
      sign_in: "arvo-l",
      role: "technician",
      tickets: [{ ticket: "gas" }],
      closed: false,
    });
    expect(await screen.findByRole("dialog", { name: "Code for Arvo Lund" })).toBeVisible();
  });

  it("keep what was written when another has changed it meanwhile", async () => {
    shown({ "PUT /people/ilse": { status: 409, problem: "Somebody changed it meanwhile. Look again." } });
    fireEvent.click(await screen.findByRole("button", { name: "Change Ilse Brandmo" }));
    write("Name", "Ilse Brand");
    fireEvent.click(screen.getByRole("button", { name: "Save the changes" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("Somebody changed it meanwhile.");
    expect(screen.getByLabelText("Name")).toHaveValue("Ilse Brand");
  });
});
