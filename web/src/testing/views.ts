// Views as the core says them, of one job on a dryer; core/job keeps them true.
import type { View } from "../api/client";
import comingBackJson from "./views/coming-back.json";
import evenJson from "./views/even.json";
import goingInJson from "./views/going-in.json";

export const goingIn = goingInJson as unknown as View;
export const comingBack = comingBackJson as unknown as View;
export const even = evenJson as unknown as View;
