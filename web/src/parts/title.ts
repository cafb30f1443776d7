import { useEffect } from "react";

/** The browser's title while this is shown. */
export function useTitle(title: string) {
  useEffect(() => {
    const before = document.title;
    document.title = `${title} · Even Steps`;
    return () => {
      document.title = before;
    };
  }, [title]);
}
