import { api, got, type Call, type CallHeard, type CallSaid } from "../api/client";
import { hearHere, takeHere } from "../offline/calls";
import { keptLists } from "../offline/lists";
import { alone } from "../offline/passes";

/** What a call means, with or without signal. */
export async function hearNow(said: CallSaid): Promise<CallHeard> {
  try {
    return got(await api.POST("/calls/heard", { body: said }));
  } catch (err) {
    if (!alone(err) || !(await keptLists().catch(() => undefined))) throw err;
    return hearHere(said);
  }
}

/**
 * Makes a job of a call, and says which. Without signal it begins on this device; only what
 * takes the place of another job must be told to the server at once.
 */
export async function takeNow(call: Call, heard: CallHeard, person: string): Promise<string> {
  try {
    return got(await api.POST("/calls", { body: call })).job;
  } catch (err) {
    if (!alone(err) || call.instead || !(await keptLists().catch(() => undefined))) throw err;
    return takeHere(call, heard, person);
  }
}
