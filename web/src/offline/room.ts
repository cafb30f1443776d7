import { useQuery } from "@tanstack/react-query";
import { db } from "./db";

/** What this browser gives the program to keep things in. */
export interface Room {
  /** It keeps nothing: its store is closed, as in some private windows. */
  none: boolean;
  /** It promised not to clear the store by itself. */
  promised: boolean;
  /** Bytes that are used and that there are; unknown in some browsers. */
  used?: number;
  all?: number;
  /** So little is left that photos may not be kept. */
  low: boolean;
}

/** Under so many bytes left a day's photos may not fit: each takes some 300 kB. */
const little = 50_000_000;

export async function roomHere(): Promise<Room> {
  const opened = await db.open().then(
    () => true,
    () => false,
  );
  // Some browsers have no estimate, and give no promise.
  const storage = navigator.storage as StorageManager | undefined;
  const { usage, quota } = (await storage?.estimate?.().catch(() => undefined)) ?? {};
  const promised = (await storage?.persisted?.().catch(() => false)) ?? false;
  const low = usage !== undefined && quota !== undefined && quota - usage < little;
  return { none: !opened, promised, used: usage, all: quota, low };
}

/** The room on this device, looked at now and then. */
export const useRoom = () =>
  useQuery({ queryKey: ["room"], queryFn: roomHere, networkMode: "always", refetchInterval: 60_000 }).data;

/** What must be known of it before it bites; nothing where all is well. */
export function roomWarning(room: Room | undefined): string | undefined {
  if (room?.none)
    return "This browser keeps nothing on this device: it is a private window, or its storage is closed. A record counts only once the server has it. Open the program in a usual window.";
  if (room?.low)
    return `This device is nearly full: ${size((room.all ?? 0) - (room.used ?? 0))} are left for this program. Photos may not be kept. Free some space.`;
  return undefined;
}

/** Bytes as people say them. */
export function size(bytes: number): string {
  if (bytes < 950_000) return `${Math.max(1, Math.round(bytes / 1000))} kB`;
  if (bytes < 950_000_000) return `${Math.round(bytes / 1_000_000)} MB`;
  return `${(bytes / 1_000_000_000).toFixed(1)} GB`;
}
