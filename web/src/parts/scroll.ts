import { css } from "styled-components";
import type { Theme } from "./theme";

/** A ground that shows a shade at its edge where more lies beyond it. */
export const moreBelow = (ground: "paper" | "well") => css`
  background:
    linear-gradient(${(p) => p.theme[ground as keyof Theme]}, ${(p) => p.theme[ground as keyof Theme]})
      bottom / 100% 1.625rem no-repeat local,
    linear-gradient(transparent, rgb(0 0 0 / 30%)) bottom / 100% 0.875rem no-repeat scroll,
    ${(p) => p.theme[ground as keyof Theme]};
`;
