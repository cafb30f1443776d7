import { describe, expect, it } from "vitest";
import { themes } from "./theme";

/** Relative luminance and contrast as WCAG 2.2 defines them. */
function luminance(hex: string) {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const v = parseInt(hex.slice(i, i + 2), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

function contrast(a: string, b: string) {
  const [hi, lo] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (hi + 0.05) / (lo + 0.05);
}

describe("contrast", () => {
  it("is computed as the standard's own examples", () => {
    // WCAG 2.2, G18: black on white is 21:1; #777777 on white is 4.48:1.
    expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
    expect(contrast("#777777", "#ffffff")).toBeCloseTo(4.48, 2);
  });

  const grounds = ["paper", "sheet", "well", "lit"] as const;
  describe.each(["day", "torch"] as const)("in the %s theme", (name) => {
    const theme = themes[name];

    it.each(grounds)("text on %s is at least 7:1", (ground) => {
      expect(contrast(theme.ink, theme[ground])).toBeGreaterThanOrEqual(7);
      expect(contrast(theme.inkQuiet, theme[ground])).toBeGreaterThanOrEqual(7);
    });

    it.each([
      ["out", "outOn"],
      ["back", "backOn"],
      ["caution", "cautionOn"],
      ["stop", "stopOn"],
      ["out", "sheet"],
      ["back", "sheet"],
      ["out", "lit"],
      ["back", "lit"],
      ["doneText", "doneOut"],
      ["doneText", "doneBack"],
      ["doneText", "strong"],
      ["stopText", "stopGround"],
      ["ink", "field"],
    ] as const)("%s on %s reads at 7:1", (a, b) => {
      expect(contrast(theme[a], theme[b])).toBeGreaterThanOrEqual(7);
    });

    it.each(grounds)("marks on %s are at least 3:1", (ground) => {
      expect(contrast(theme.ruleStrong, theme[ground])).toBeGreaterThanOrEqual(3);
    });
  });

  it("in the torch theme no ground is bright", () => {
    const { paper, sheet, well, lit, field, strong, doneOut, doneBack, stopGround } = themes.torch;
    for (const ground of [paper, sheet, well, lit, field, strong, doneOut, doneBack, stopGround]) {
      expect(luminance(ground)).toBeLessThan(0.03);
    }
  });
});
