import { useEffect, useState } from "react";
import { Problem } from "../api/client";
import { sendPhoto, shrink } from "../parts/photo";
import { db } from "./db";

/** Shrinks a photo and keeps it on this device; it is sent behind. Returns its name. */
export async function takePhoto(file: Blob): Promise<string> {
  const photo = await shrink(file);
  if (!(await db.photos.get(photo.sha256))) await db.photos.put({ ...photo, state: "waiting" });
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

/** A photo from this device, or from the server and then kept here. */
async function bring(
  sha256: string,
): Promise<{ whole: Blob; small: Blob; waiting: boolean; problem?: string }> {
  const here = await db.photos.get(sha256);
  if (here) return { ...here, waiting: here.state === "waiting", problem: here.problem };
  const answer = await fetch(`/api/photos/${sha256}`);
  if (!answer.ok) throw new Error("not here");
  const whole = await answer.blob();
  const small = (await shrink(whole)).small;
  await db.photos.put({ sha256, state: "sent", whole, small }).catch(() => undefined); // no room: shown all the same
  return { whole, small, waiting: false };
}

export interface PhotoHere {
  url?: string;
  /** It is on another device and cannot be fetched now. */
  away?: boolean;
  waiting?: boolean;
  problem?: string;
}

/** The address of a photo on this page, whole or small. */
export function usePhoto(sha256: string, which: "whole" | "small"): PhotoHere {
  const [photo, setPhoto] = useState<PhotoHere>({});
  useEffect(() => {
    let url = "";
    let gone = false;
    bring(sha256).then(
      (kept) => {
        if (gone) return;
        url = URL.createObjectURL(kept[which]);
        setPhoto({ url, waiting: kept.waiting, problem: kept.problem });
      },
      () => !gone && setPhoto({ away: true }),
    );
    return () => {
      gone = true;
      if (url) URL.revokeObjectURL(url);
    };
  }, [sha256, which]);
  return photo;
}
