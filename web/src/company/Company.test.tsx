import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mira, openAt } from "../testing/open";
import { answering, company } from "../testing/server";
import { Company } from "./Company";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const shown = (answers: Parameters<typeof answering>[0] = {}) => {
  const sent = answering({ "GET /company": company, "PUT /company": company, ...answers });
  openAt(<Company />, "/company", "*", mira);
  return sent;
};

describe("the company", () => {
  it("takes figures with a comma or a point, and its region and units", async () => {
    const sent = shown();
    fireEvent.change(await screen.findByLabelText("An hour’s work, without tax"), {
      target: { value: "72,5" },
    });
    fireEvent.click(screen.getByRole("radio", { name: "month day, year" }));
    fireEvent.click(screen.getByRole("radio", { name: "°F, inches, in. w.c." }));
    fireEvent.click(screen.getByRole("button", { name: "Save the company" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      rate: 72.5,
      region: "en-US",
      units: "customary",
      version: company.version,
    });
    expect(await screen.findByRole("button", { name: "Saved" })).toBeVisible();
  });

  it("sends nothing that is no number, and says which", async () => {
    const sent = shown();
    fireEvent.change(await screen.findByLabelText("Tax, per cent"), { target: { value: "a lot" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the company" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("The tax is “a lot”. Write a number.");
    expect(sent).toEqual([]);
  });

  it("says that it is not kept while nobody answers", async () => {
    shown({ "PUT /company": { status: 503, problem: "The database does not answer." } });
    fireEvent.change(await screen.findByLabelText("Name"), { target: { value: "Skerry Service" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the company" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("The database does not answer.");
    expect(screen.getByLabelText("Name")).toHaveValue("Skerry Service");
    expect(screen.queryByRole("button", { name: "Saved" })).toBeNull();
  });
});
