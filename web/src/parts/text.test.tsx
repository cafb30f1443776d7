import { render } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { band, clock, Line, dated } from "./text";

describe("words", () => {
  it("makes *word* strong and nothing else markup", () => {
    const { container } = render(<Line text="Two *long* screws <b>low</b>" />);
    expect(container.querySelectorAll("strong")).toHaveLength(1);
    expect(container.querySelector("b")).toBeNull();
    expect(container.textContent).toBe("Two long screws <b>low</b>");
  });

  it("gives times as a band, never as one number", () => {
    expect(band(33.2, 41.4)).toBe("33 to 41 min");
    expect(band(4.6, 5.2)).toBe("about 5 min");
    expect(band(0, 0)).toBe("");
  });

  it("names the day where it is another", () => {
    const now = new Date("2026-11-25T10:00:00");
    expect(clock("2026-11-25T09:42:00", now)).toBe("09:42");
    expect(clock("2026-11-24T09:42:00", now)).toMatch(/24.* 09:42$/);
    expect(clock(null)).toBe("");
  });
});

describe("a date on paper", () => {
  const at = "2026-11-28T22:30:00Z";
  it("stands in the company's time zone, in its way", () => {
    expect(dated(at, { zone: "Europe/Helsinki", region: "en-GB" })).toBe("29 Nov 2026, 00:30");
    expect(dated(at, { zone: "America/New_York", region: "en-US" })).toBe("Nov 28, 2026, 17:30");
  });
  it("stands there where the zone is unknown, too", () => {
    expect(dated(at, { zone: "Moon/Base" })).toContain("2026");
    expect(dated(undefined, {})).toBe("");
  });
});
