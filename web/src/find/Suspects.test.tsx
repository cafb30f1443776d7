import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { ThemeProvider } from "styled-components";
import { afterEach, describe, expect, it } from "vitest";
import type { Find } from "../api/client";
import { themes } from "../parts/theme";
import { Circuit } from "./Circuit";
import { Suspects } from "./Suspects";

afterEach(cleanup);

const suspect = (fault: string, p: number, was = p) => ({
  fault,
  name: `Name of ${fault}`,
  p,
  was,
  about: "about",
});

const find = (suspects: Find["suspects"]) => ({ suspects }) as Find;

const show = (node: React.ReactNode) => render(<ThemeProvider theme={themes.day}>{node}</ThemeProvider>);

describe("suspects", () => {
  it("shows the three likeliest, and the rest on asking", () => {
    show(
      <Suspects
        find={find([
          suspect("a", 0.6),
          suspect("b", 0.2),
          suspect("c", 0.1),
          suspect("d", 0.06),
          suspect("e", 0.04),
        ])}
      />,
    );
    expect(screen.queryByText("Name of d")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "2 more suspects" }));
    expect(screen.getByText("Name of e")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Only the first three" }));
    expect(screen.queryByText("Name of e")).toBeNull();
  });

  it("has no button where there is no more", () => {
    show(<Suspects find={find([suspect("a", 0.9), suspect("b", 0.1)])} />);
    expect(screen.queryByRole("button")).toBeNull();
  });

  it("says where one stood before the last result, and only where it moved", () => {
    show(<Suspects find={find([suspect("a", 0.8, 0.44), suspect("b", 0.2, 0.2)])} />);
    expect(screen.getByText("before the last result 44 %")).toBeTruthy();
    expect(screen.queryByText("before the last result 20 %")).toBeNull();
  });
});

describe("a circuit as a line", () => {
  it("says in words what the line draws", () => {
    show(
      <Circuit
        line={{
          name: "Heater, live side",
          points: [
            { name: "Block", state: "reach" },
            { name: "Thermostat", state: "far" },
            { name: "Element", state: "reach" },
          ],
          gaps: ["cleared", "suspect"],
        }}
      />,
    );
    const words = screen.getAllByRole("listitem").map((i) => i.textContent);
    expect(words).toEqual(["Blockthen cleared", "Thermostatnot in reachthen suspect", "Element"]);
  });
});
