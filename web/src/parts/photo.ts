import { Problem } from "../api/client";

/** The longest side of a photo that is sent, in pixels. */
const side = 1600;

/** A photo made small enough to send. Drawing it anew leaves behind what the camera wrote into it, places among it. */
async function shrunk(file: Blob): Promise<Blob> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, side / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
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

/** Shrinks a photo, keeps it on the server, and returns the SHA-256 of its bytes by which it is named. */
export async function keepPhoto(file: Blob): Promise<string> {
  let small: Blob;
  try {
    small = await shrunk(file);
  } catch {
    throw new Problem(
      422,
      "This file is no picture that can be read. Take a photo, or choose a JPEG or PNG.",
    );
  }
  const bytes = await small.arrayBuffer();
  const sum = hexadecimal(await crypto.subtle.digest("SHA-256", bytes));
  const answer = await fetch(`/api/photos/${sum}`, {
    method: "PUT",
    headers: { "Content-Type": "application/octet-stream" },
    body: bytes,
  });
  if (!answer.ok) {
    const said = (await answer.json().catch(() => ({}))) as { detail?: string };
    throw new Problem(answer.status, said.detail ?? `The server answered ${answer.status}.`);
  }
  return sum;
}
