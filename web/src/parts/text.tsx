import { Fragment } from "react";
import styled from "styled-components";

/** Heard, not seen. */
export const Heard = styled.span`
  position: absolute;
  width: 0.0625rem;
  height: 0.0625rem;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;

/** A line of a map: *word* is strong, nothing else is markup. */
export function Line({ text }: { text: string }) {
  return (
    <>
      {text
        .split("*")
        .map((piece, i) =>
          i % 2 === 1 ? <strong key={i}>{piece}</strong> : <Fragment key={i}>{piece}</Fragment>,
        )}
    </>
  );
}

/** Words of the format, as people write them. */
export const words = (ids: string[]) => ids.map((id) => id.replaceAll("-", " ")).join(", ");

/** The time of day, as the work needs it; with the day where it is another. */
export function clock(at: string | null | undefined, now = new Date()): string {
  if (!at) return "";
  const t = new Date(at);
  const time = t.toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hourCycle: "h23" });
  return t.toDateString() === now.toDateString()
    ? time
    : `${t.toLocaleDateString([], { day: "numeric", month: "short" })} ${time}`;
}

/** A date with its time, as paper needs it: in the company's time zone, written in its way. */
export function dated(at: string | null | undefined, of: { zone?: string; region?: string }): string {
  if (!at) return "";
  const how = { dateStyle: "medium", timeStyle: "short", hourCycle: "h23" } as const;
  try {
    return new Intl.DateTimeFormat(of.region || "en-GB", { ...how, timeZone: of.zone || undefined }).format(
      new Date(at),
    );
  } catch {
    return new Intl.DateTimeFormat("en-GB", how).format(new Date(at)); // a zone that this browser does not know
  }
}

/** A band of minutes; never one number. */
export function band(p50: number, p80: number): string {
  const [a, b] = [Math.round(p50), Math.round(p80)];
  if (b === 0) return "";
  return a === b ? `about ${a} min` : `${a} to ${b} min`;
}
