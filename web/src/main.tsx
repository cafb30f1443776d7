import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { GlobalStyle } from "./parts/global";
import { Holding } from "./parts/Hold";
import { Lit } from "./parts/Lit";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 2_000 } } });

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
