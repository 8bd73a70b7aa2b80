import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";
import { VitePWA } from "vite-plugin-pwa";
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { precompress } from "./precompress";

/** The form of the program's answers: pages that a device kept in another one are not shown. */
const shape = createHash("sha256").update(readFileSync("src/api/schema.gen.ts")).digest("hex").slice(0, 16);

export default defineConfig({
  define: { __SHAPE__: JSON.stringify(shape) },
  plugins: [
    react({ compiler: true }),
    VitePWA({
      strategies: "injectManifest",
      srcDir: "worker",
      filename: "sw.ts",
      injectRegister: false,
      injectManifest: { globPatterns: ["index.html", "assets/*.{js,css,woff2}", "icon*"] },
      manifest: {
        name: "Hevrin",
        short_name: "Hevrin",
        description: "Finds why a boat's engine runs hot, or cold",
        lang: "en",
        start_url: "/",
        display: "standalone",
        background_color: "#0c2a33",
        theme_color: "#0c2a33",
        icons: [
          { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
          { src: "/icon-whole-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
        ],
      },
    }),
    precompress(),
  ],
  build: { chunkSizeWarningLimit: 1200, assetsInlineLimit: 0 },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  test: {
    environment: "jsdom",
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/test-setup.ts"],
    testTimeout: 60_000,
    isolate: false, // files share a window: each test draws and clears its own
  },
});
