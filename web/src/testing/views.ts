// Views as the core says them, of one job on a dryer; core/job keeps them true.
import type { Find, Lists, View } from "../api/client";
import type { Asks } from "../offline/asks";
import comingBackJson from "./views/coming-back.json";
import decideJson from "./views/decide.json";
import evenJson from "./views/even.json";
import findJson from "./views/find.json";
import goingInJson from "./views/going-in.json";
import listsJson from "./views/lists.json";
import seekingJson from "./views/seeking.json";

export const goingIn = goingInJson as unknown as View;
export const comingBack = comingBackJson as unknown as View;
export const even = evenJson as unknown as View;
/** The same machine with nothing open, its fault still sought; and what the core advises there. */
export const seeking = seekingJson as unknown as View;
export const find = findJson as unknown as Find;
export const decide = decideJson as unknown as Asks["decide"]["out"];
export const lists = listsJson as unknown as Lists;
