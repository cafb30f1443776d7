import "styled-components";

/** The day's colours. Contrast is held by theme.test.ts: text at least 7:1, marks at least 3:1. */
const day = {
  paper: "#edf1f0",
  sheet: "#fafcfb",
  well: "#dce4e2",
  ink: "#131a1c",
  inkQuiet: "#3f494b",
  rule: "#c2ccca",
  ruleStrong: "#70807c",
  out: "#2f3d94",
  outOn: "#e9ecf9",
  back: "#14573a",
  backOn: "#d9eee2",
  caution: "#5c3f00",
  cautionOn: "#f7e3b0",
  stop: "#980c19",
  stopOn: "#fbe7e8",
  lit: "#fff3bd",
  /** Fields to type in, and the sheet as it prints. */
  field: "#ffffff",
  /** What stands on a field of out, back, stop or ink. */
  onStrong: "#fafcfb",
  /** The ground of Done, of what leads on, and of the foot of the ladder. */
  doneOut: "#2f3d94",
  doneBack: "#14573a",
  strong: "#131a1c",
  stopGround: "#980c19",
  stopText: "#ffffff",
  doneText: "#fafcfb",
};

type Colours = typeof day;

/** For cupboards and night ferries: nothing bright is larger than a line of text. */
const torch: Colours = {
  paper: "#101312",
  sheet: "#171b1a",
  well: "#0b0d0d",
  ink: "#d5cfb0",
  inkQuiet: "#b9b498",
  rule: "#343a37",
  ruleStrong: "#75807a",
  out: "#a9b6f2",
  outOn: "#1a2040",
  back: "#8ccaa2",
  backOn: "#132b1e",
  caution: "#e0b458",
  cautionOn: "#33270c",
  stop: "#ff8f86",
  stopOn: "#3d1311",
  lit: "#272515",
  field: "#0b0d0d",
  onStrong: "#171b1a",
  doneOut: "#1a2040",
  doneBack: "#132b1e",
  strong: "#272515",
  stopGround: "#3d1311",
  stopText: "#ff8f86",
  doneText: "#d5cfb0",
};

const sizes = {
  text: '"Atkinson Hyperlegible Next Variable", system-ui, sans-serif',
  mono: '"Atkinson Hyperlegible Mono Variable", ui-monospace, monospace',
  /** Type sizes: nothing under 15; 18 and up for what is worked from; 24 for the rung's own text. */
  small: "0.9375rem",
  glance: "1rem",
  work: "1.125rem",
  rung: "1.375rem",
  title: "2rem",
  /** The heights of touch targets: on the rung, and elsewhere. */
  touch: "4.5rem",
  touchSmall: "3.5rem",
  strip: "3.75rem",
  actions: "6.75rem",
  ladder: "18.5rem",
  bench: "21.875rem",
  gap: "0.75rem",
  gapWide: "1.5rem",
} as const;

export const themes = {
  day: { ...day, ...sizes, name: "day" },
  torch: { ...torch, ...sizes, name: "torch" },
} as const;

export type ThemeName = keyof typeof themes;

/** Sizes: a phone in one hand; a tablet upright. Anything wider has three columns. */
export const phone = "@media (max-width: 40em)";
export const upright = "@media (min-width: 40.0625em) and (max-width: 62.5em)";

/** A phone on its side, or 200 % zoom: the page scrolls, strip and actions shrink. */
export const low = "@media (max-height: 31.25em)";

export type Theme = Colours & typeof sizes & { name: ThemeName };

declare module "styled-components" {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type
  export interface DefaultTheme extends Theme {}
}
