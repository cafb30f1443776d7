import { useEffect } from "react";

/** Keeps the screen awake while it is shown, where the browser can. */
export function useAwake() {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    const hold = () => {
      if (document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      navigator.wakeLock.request("screen").then(
        (got) => {
          if (gone) void got.release();
          else lock = got;
        },
        () => undefined, // a battery that is low refuses
      );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, []);
}

export const canSpeak = () => "speechSynthesis" in window;

/** Reads a line aloud by the browser's own voice. */
export function speak(text: string) {
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(text.replaceAll("*", "")));
}
