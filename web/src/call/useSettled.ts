import { useEffect, useState } from "react";

/** A pause in typing, in milliseconds, after which the core is asked what it means. */
const pause = 400;

/** A value once it has stayed the same for a pause. */
export function useSettled<T>(value: T): T {
  const text = JSON.stringify(value);
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), pause);
    return () => clearTimeout(timer);
  }, [text]);
  return JSON.parse(settled) as T;
}
