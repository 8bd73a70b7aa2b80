import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";
import { precompress } from "./precompress";

export default defineConfig({
  plugins: [react(), precompress()],
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
