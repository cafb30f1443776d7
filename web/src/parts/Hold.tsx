import { createContext, useContext, useEffect, useState, type ReactNode } from "react";
import { keepHold, keptHold, type Hold } from "../offline/db";
import { Plain } from "./Buttons";

const Held = createContext<Hold & { set(hold: Hold): void }>({
  left: false,
  letters: true,
  set: () => undefined,
});

/** How this device is held: by which hand, and whether single letters work. */
export const useHold = () => useContext(Held);

export function Holding({ children }: { children: ReactNode }) {
  const [hold, setHold] = useState<Hold>({ left: false, letters: true });
  useEffect(() => {
    void keptHold().then(setHold);
  }, []);
  const set = (now: Hold) => {
    setHold(now);
    void keepHold(now);
  };
  return <Held value={{ ...hold, set }}>{children}</Held>;
}

/** Puts Done under the other thumb, and switches the single letters on and off. */
export function HoldSwitches() {
  const { left, letters, set } = useHold();
  return (
    <>
      <Plain aria-pressed={left} onPress={() => set({ left: !left, letters })}>
        {left ? "For the right hand" : "For the left hand"}
      </Plain>
      <Plain aria-pressed={!letters} onPress={() => set({ left, letters: !letters })}>
        {letters ? "Letters off" : "Letters on"}
      </Plain>
    </>
  );
}
