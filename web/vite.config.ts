import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

// The nonce mark is replaced by the server with a fresh one for each page.
export default defineConfig({
  plugins: [
    react(),
    // All pages, the core and the fonts lie on the device: a page opens without signal from cold.
    VitePWA({
      strategies: "generateSW",
      registerType: "prompt", // the old page goes on; the new one begins with the next start
      injectRegister: null, // main.tsx does it: the content policy allows no script in the page
      manifest: {
        name: "Even Steps",
        short_name: "Even Steps",
        description: "Into a machine and back out of it. What came off is back, counted and proven.",
        start_url: "/",
        display: "standalone",
        background_color: "#edf1f0",
        theme_color: "#edf1f0",
        id: "/",
        scope: "/",
        lang: "en",
        icons: [
          { src: "/icon-192.png", sizes: "192x192", type: "image/png", purpose: "any" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "any" },
          { src: "/icon-maskable-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
          { src: "/mark.svg", sizes: "any", type: "image/svg+xml", purpose: "any" },
        ],
      },
      workbox: {
        globPatterns: ["**/*.{html,js,css,wasm,woff2,svg,png,txt}"],
        maximumFileSizeToCacheInBytes: 16 * 1024 * 1024, // the core is 8 MB before it is packed
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//, /^\/healthz/, /^\/readyz/, /^\/licences/],
        inlineWorkboxRuntime: true,
        disableDevLogs: true,
        sourcemap: false,
      },
    }),
  ],
  html: { cspNonce: "__NONCE__" },
  worker: { format: "es" },
  build: { assetsInlineLimit: 0, target: "es2022", chunkSizeWarningLimit: 700 },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
