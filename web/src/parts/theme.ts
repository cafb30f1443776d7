import "styled-components";

/** The day's colours. Contrast is held by theme.test.ts: text at least 7:1, marks at least 3:1. */
const day = {
  paper: "#f4f1e9",
  sheet: "#fbf9f4",
  well: "#e9e4d8",
  ink: "#191d1c",
  inkQuiet: "#454b48",
  rule: "#cfc8b8",
  ruleStrong: "#857d6c",
  clay: "#8a3511",
  clayOn: "#f9efe7",
  pine: "#1c5539",
  pineOn: "#dcebde",
  amber: "#613f00",
  amberOn: "#f6e2b3",
  stop: "#980c19",
  stopOn: "#fbe9e7",
  lit: "#fff7d6",
  /** Fields to type in, and the sheet as it prints. */
  field: "#ffffff",
  /** What stands on a field of clay, pine, stop or ink. */
  onStrong: "#fbf9f4",
  /** The ground of Done, of what leads on, and of the foot of the ladder. */
  doneOut: "#8a3511",
  doneBack: "#1c5539",
  strong: "#191d1c",
  stopGround: "#980c19",
  stopText: "#ffffff",
  doneText: "#fbf9f4",
};

type Colours = typeof day;

/** For cupboards and night ferries: nothing bright is larger than a line of text. */
const torch: Colours = {
  paper: "#12110d",
  sheet: "#191812",
  well: "#0d0c09",
  ink: "#d9cba8",
  inkQuiet: "#b8ab8c",
  rule: "#38342a",
  ruleStrong: "#7a7260",
  clay: "#e69f72",
  clayOn: "#2e190d",
  pine: "#8cc79f",
  pineOn: "#152a1d",
  amber: "#e0b458",
  amberOn: "#33270c",
  stop: "#ff8f86",
  stopOn: "#3d1311",
  lit: "#262111",
  field: "#0d0c09",
  onStrong: "#191812",
  doneOut: "#2e190d",
  doneBack: "#152a1d",
  strong: "#262111",
  stopGround: "#3d1311",
  stopText: "#ff8f86",
  doneText: "#d9cba8",
};

const sizes = {
  text: '"Atkinson Hyperlegible Next Variable", system-ui, sans-serif',
  mono: '"Atkinson Hyperlegible Mono Variable", ui-monospace, monospace',
  /** Type sizes: nothing under 15; 18 and up for what is worked from; 24 for the rung's own text. */
  small: "15px",
  glance: "16px",
  work: "18px",
  rung: "22px",
  title: "32px",
  /** The heights of touch targets: on the rung, and elsewhere. */
  touch: "72px",
  touchSmall: "56px",
  strip: "60px",
  actions: "108px",
  ladder: "296px",
  bench: "350px",
  gap: "12px",
  gapWide: "24px",
} as const;

export const themes = {
  day: { ...day, ...sizes, name: "day" },
  torch: { ...torch, ...sizes, name: "torch" },
} as const;

export type ThemeName = keyof typeof themes;

/** Sizes: a phone in one hand; a tablet upright. Anything wider has three columns. */
export const phone = "@media (max-width: 640px)";
export const upright = "@media (min-width: 641px) and (max-width: 1000px)";

export type Theme = Colours & typeof sizes & { name: ThemeName };

declare module "styled-components" {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type
  export interface DefaultTheme extends Theme {}
}
