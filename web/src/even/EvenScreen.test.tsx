import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { openOn } from "../testing/open";
import { comingBack, even } from "../testing/views";
import { EvenScreen } from "./EvenScreen";

afterEach(cleanup);

describe("is it even", () => {
  it("names what is still to come, and signs nothing off before", () => {
    const { made } = openOn(comingBack, (job) => <EvenScreen job={job} view={comingBack} />);
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe(comingBack.headline);
    expect(screen.getByText("Still to come")).toBeInTheDocument();
    fireEvent.click(screen.getByRole("button", { name: new RegExp(`^${comingBack.sign_off.label}`) }));
    expect(made).toEqual([]);
    expect(screen.getByRole("dialog")).toBeInTheDocument();
  });

  it("signs off by one touch once all is back and proven", () => {
    const { made } = openOn(even, (job) => <EvenScreen job={job} view={even} />);
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("Even: all back and proven");
    fireEvent.click(screen.getByRole("button", { name: new RegExp(`^${even.sign_off.label}`) }));
    expect(made).toEqual([even.sign_off.makes]);
  });

  it("gives the customer what was wrong, done and measured, and who did it", () => {
    openOn(even, (job) => <EvenScreen job={job} view={even} />);
    const sheet = screen.getByLabelText("Sheet").textContent ?? "";
    expect(even.sheet.measured.length).toBeGreaterThan(0);
    for (const row of even.sheet.measured) expect(sheet).toContain(row.what);
    expect(sheet).toContain("Jonna");
    expect(sheet.replace(even.sheet.note, "")).not.toMatch(/\bsafe\b/);
  });

  it("keeps before the eyes what the server did not take", () => {
    let sent = 0;
    const held = [{ id: "e-1", says: "A note", problem: "It is of another job." }];
    openOn(even, (job) => <EvenScreen job={job} view={even} />, { held, retry: () => sent++ });
    expect(screen.getByText(/It is of another job/)).toBeInTheDocument();
    fireEvent.click(screen.getByRole("button", { name: "Send again" }));
    expect(sent).toBe(1);
  });
});
