import type { Make } from "../api/client";

/** Puts a value, as it was written, into the record that the core has prepared. */
export const withValue = (make: Make, value: string, into = "value"): Make => ({
  kind: make.kind,
  body: { ...(make.body as object), [into]: value },
});
