import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// The nonce mark is replaced by the server with a fresh one for each page.
export default defineConfig({
  plugins: [react()],
  html: { cspNonce: "__NONCE__" },
  worker: { format: "es" },
  build: { assetsInlineLimit: 0, target: "es2022", chunkSizeWarningLimit: 700 },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
