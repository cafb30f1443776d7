import { useQuery } from "@tanstack/react-query";
import { useLiveQuery } from "dexie-react-hooks";
import { useEffect, useState } from "react";
import { Problem } from "../api/client";
import { sendPhoto, shrink } from "../parts/photo";
import { db, type KeptPhoto } from "./db";

const noRoom =
  "The photo is not kept: this device has no room, or its storage is closed. Free some space, then take it again.";

/** Shrinks a photo and keeps it on this device; it is sent behind. Returns its name. */
export async function takePhoto(file: Blob): Promise<string> {
  const photo = await shrink(file);
  try {
    if (!(await db.photos.get(photo.sha256))) await db.photos.put({ ...photo, state: "waiting" });
  } catch {
    throw new Problem(507, noRoom);
  }
  return photo.sha256;
}

/** Sends the photos that wait here. One that is refused stays with its problem and stops no other. */
export async function sendPhotos(): Promise<void> {
  await navigator.locks.request("evensteps-photos", async () => {
    for (const photo of await db.photos.where({ state: "waiting" }).toArray()) {
      try {
        await sendPhoto(photo.sha256, photo.whole);
        await db.photos.update(photo.sha256, { state: "sent" });
      } catch (err) {
        if (!(err instanceof Problem) || err.status === 401 || err.status >= 500) return; // later
        await db.photos.update(photo.sha256, { state: "refused", problem: err.message });
      }
    }
  });
}

/** A photo that is not on this device: from the server, and then kept here. */
async function fetched(sha256: string): Promise<KeptPhoto> {
  const answer = await fetch(`/api/photos/${sha256}`);
  if (!answer.ok) throw new Error("not here");
  const whole = await answer.blob();
  const photo: KeptPhoto = { sha256, state: "sent", whole, small: (await shrink(whole)).small };
  await db.photos.put(photo).catch(() => undefined); // no room: shown all the same
  return photo;
}

/** So many photos of one job are brought ahead, the newest first. */
const mostAhead = 30;

/** Brings the photos of a job to this device, so that they are there without signal. */
export async function bringPhotos(job: string): Promise<void> {
  const events = await db.events.where({ job }).toArray();
  const names = events
    .filter((e) => e.event.kind === "photo")
    .map((e) => (e.event.body as { sha256: string }).sha256)
    .slice(-mostAhead);
  for (const name of names) if (!(await kept(name))) await fetched(name).catch(() => undefined);
}

export interface PhotoHere {
  url?: string;
  /** It is on another device and cannot be fetched now. */
  away?: boolean;
  waiting?: boolean;
  problem?: string;
}

/** The address of a photo on this page, whole or small; whether it is sent changes as it is. */
export function usePhoto(sha256: string, which: "whole" | "small"): PhotoHere {
  // null while it is not here, undefined while the store has not answered.
  const here = useLiveQuery(() => kept(sha256), [sha256]);
  const asked = useQuery({
    queryKey: ["photo", sha256],
    queryFn: () => fetched(sha256),
    enabled: here === null,
    networkMode: "always",
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  const photo = here ?? asked.data;
  const url = useAddress(`${sha256} ${which}`, photo?.[which]);
  return { url, away: !photo && asked.isError, waiting: photo?.state === "waiting", problem: photo?.problem };
}

const kept = async (sha256: string) => (await db.photos.get(sha256).catch(() => undefined)) ?? null;

/** The address of what is in memory, as long as it is shown: one for one name, also where it is read again. */
function useAddress(name: string, blob: Blob | undefined) {
  const [shown, setShown] = useState<{ name: string; blob: Blob }>();
  const [url, setUrl] = useState<string>();
  if (blob && shown?.name !== name) setShown({ name, blob });
  useEffect(() => {
    if (!shown) return undefined;
    const made = URL.createObjectURL(shown.blob);
    // eslint-disable-next-line react-hooks/set-state-in-effect -- an address is the browser's, and is given back to it
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [shown]);
  return shown?.name === name ? url : undefined;
}
