import { useRef, useState, type ReactNode } from "react";
import { FileTrigger } from "react-aria-components";
import { wentWrong } from "../api/client";
import { takePhoto } from "../offline/photos";

interface Taken {
  /** Called with the photo's name once this device has it. */
  onTaken: (sha256: string) => unknown;
  onFailed: (why: string) => void;
}

interface Camera {
  /** Stands somewhere on the page, unseen. */
  input: ReactNode;
  /** Opens the camera, or the choice of a picture. */
  open: () => void;
  busy: boolean;
}

/** Takes a photo with the camera, or chooses one. */
export function useCamera({ onTaken, onFailed }: Taken): Camera {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const take = async (file: File) => {
    setBusy(true);
    const began = performance.now();
    try {
      const sha256 = await takePhoto(file);
      await onTaken(sha256);
      performance.measure("photo kept", { start: began, end: performance.now() });
    } catch (err) {
      onFailed(wentWrong(err));
    } finally {
      setBusy(false);
    }
  };
  return {
    input: (
      <FileTrigger
        ref={input}
        acceptedFileTypes={["image/*"]}
        defaultCamera="environment"
        data-photo
        onSelect={(files) => {
          const file = files?.[0];
          if (input.current) input.current.value = ""; // the same picture again is another choice
          if (file) void take(file);
        }}
      />
    ),
    open: () => input.current?.click(),
    busy,
  };
}
