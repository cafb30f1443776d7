import { createContext, useContext, useEffect, useState, type ReactNode } from "react";
import { ThemeProvider } from "styled-components";
import { keepTheme, keptTheme } from "../offline/db";
import { Plain } from "./Buttons";
import { themes, type ThemeName } from "./theme";

const Light = createContext<{ name: ThemeName; set(name: ThemeName): void }>({
  name: "day",
  set: () => undefined,
});

/** The theme of this device: day, or torch for dark places. */
export function Lit({ children }: { children: ReactNode }) {
  const [name, setName] = useState<ThemeName>("day");
  useEffect(() => {
    void keptTheme().then((kept) => kept && setName(kept));
  }, []);
  const set = (now: ThemeName) => {
    setName(now);
    void keepTheme(now);
  };
  return (
    <Light value={{ name, set }}>
      <ThemeProvider theme={themes[name]}>{children}</ThemeProvider>
    </Light>
  );
}

/** Turns the torch theme on and off. */
export function TorchSwitch() {
  const { name, set } = useContext(Light);
  return (
    <Plain onPress={() => set(name === "torch" ? "day" : "torch")}>
      {name === "torch" ? "Day theme" : "Torch theme"}
    </Plain>
  );
}
