// The core for the tests of the pages: it answers with what it was heard to say
// (testing/views, which a test of the core keeps true), or not at all.
import type { Asks } from "../offline/asks";

type Says = Partial<Record<keyof Asks, (more: unknown) => unknown>>;

/** What vi.mock gives instead of the core and its worker. */
export const coreSaying = (says: Says) => ({
  viewerHere: async (person: string) => ({ person, device: "tab" }),
  core: {
    generation: 1,
    about: (ask: keyof Asks, _job: string, _viewer: unknown, more: unknown) => {
      const say = says[ask];
      return say ? Promise.resolve(say(more)) : new Promise(() => undefined);
    },
  },
});
