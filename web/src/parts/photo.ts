import { Problem } from "../api/client";

/** The longest side of a photo that is sent, and of the small one of it, in pixels. */
const side = 1600;
const smallSide = 320;

/** Draws a picture anew, so small. That leaves behind what the camera wrote into it, places among it. */
async function drawn(picture: ImageBitmap, longest: number): Promise<Blob> {
  const scale = Math.min(1, longest / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) =>
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error("The photo cannot be drawn."))),
      "image/jpeg",
      0.82,
    ),
  );
}

const hexadecimal = (bytes: ArrayBuffer) =>
  [...new Uint8Array(bytes)].map((b) => b.toString(16).padStart(2, "0")).join("");

export interface ShrunkPhoto {
  /** The SHA-256 of its bytes, by which it is named. */
  sha256: string;
  whole: Blob;
  small: Blob;
}

/** Shrinks a photo on the device, and makes a small one of it. */
export async function shrink(file: Blob): Promise<ShrunkPhoto> {
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file);
  } catch {
    throw new Problem(
      422,
      "This file is no picture that can be read. Take a photo, or choose a JPEG or PNG.",
    );
  }
  const whole = await drawn(picture, side);
  const small = await drawn(picture, smallSide);
  picture.close();
  const sum = await crypto.subtle.digest("SHA-256", await whole.arrayBuffer());
  return { sha256: hexadecimal(sum), whole, small };
}

/** Sends a photo to the server, which keeps it under its name. */
export async function sendPhoto(sha256: string, whole: Blob): Promise<void> {
  const answer = await fetch(`/api/photos/${sha256}`, {
    method: "PUT",
    headers: { "Content-Type": "application/octet-stream" },
    body: await whole.arrayBuffer(),
  });
  if (answer.ok) return;
  const said = (await answer.json().catch(() => ({}))) as { detail?: string };
  throw new Problem(answer.status, said.detail ?? `The server answered ${answer.status}.`);
}
