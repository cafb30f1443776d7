import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { GlobalStyle } from "./parts/global";
import { Holding } from "./parts/Hold";
import { Lit } from "./parts/Lit";
import { keepPages } from "./offline/pages";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 2_000 } } });

// Whether somebody works by keys shows by the last thing that they did.
window.addEventListener("keydown", (e) => {
  if (!(e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) || e.key === "Tab")
    document.documentElement.dataset["keys"] = "";
});
window.addEventListener("pointerdown", () => delete document.documentElement.dataset["keys"]);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <Lit>
      <GlobalStyle />
      <QueryClientProvider client={queries}>
        <Holding>
          <App />
        </Holding>
      </QueryClientProvider>
    </Lit>
  </StrictMode>,
);

if (import.meta.env.PROD) keepPages();
