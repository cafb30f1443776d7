import { plus, type Make } from "../api/client";

/** Puts a value, as it was written, into the record that the core has prepared. */
export const withValue = (make: Make, value: string, into = "value") => plus(make, { [into]: value });
