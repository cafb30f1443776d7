import { Problem } from "../api/client";

/** These say that the server or the way to it fails, not that something is wrong with what was sent. */
export const passes = (status: number) => status === 0 || status === 408 || status === 429 || status > 500;

/** Whether no server answered, so that this device must do with what it has. */
export const alone = (err: unknown) => !(err instanceof Problem) || passes(err.status);
