import { cleanup, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { openOn } from "../testing/open";
import { comingBack } from "../testing/views";
import { HandOverScreen } from "./HandOverScreen";

afterEach(cleanup);

describe("the hand-over", () => {
  it("says what can hurt, and what is off and where it lies", () => {
    openOn(comingBack, (job) => <HandOverScreen job={job} view={comingBack} />);
    const text = document.body.textContent ?? "";
    expect(comingBack.energies.length).toBeGreaterThan(0);
    for (const e of comingBack.energies) expect(text).toContain(e.name);
    expect(comingBack.off.length).toBeGreaterThan(0);
    for (const row of comingBack.off) expect(text).toContain(row.name);
  });

  it("never says that the machine is safe", () => {
    openOn(comingBack, (job) => <HandOverScreen job={job} view={comingBack} />);
    expect(screen.queryByText(/\bsafe\b/)).toBeNull();
  });
});
