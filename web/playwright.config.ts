import { defineConfig } from "@playwright/test";

/**
 * Whole paths, every screen and every answer are tried at both widths; the rest at the width of those who do it, with a
 * phone at the engine or at a desk; of what differs little, some. ALL_BROWSER_TESTS=1 tries all of it, all at both.
 */
const atTheEngine = ["state", "teardown", "refit", "wetwork", "proving", "readings", "outbox", "practice", "job"];
const atTheDesk = ["calculators", "maintenance", "lists", "hindsight"];
const notFor = (other: string[]) => (process.env.ALL_BROWSER_TESTS ? [] : other.map((name) => `**/${name}.spec.ts`));

/** The real program, freshly seeded, driven in Debian's Chromium, on a desk's and on a phone's screen. */
export default defineConfig({
  testDir: "e2e",
  testMatch: "*.spec.ts",
  workers: 3, // on two cores: one of them waits most of the time
  fullyParallel: true,
  timeout: 240_000, // a slow machine, or one that stands still for a while, fails nothing
  expect: { timeout: 40_000 },
  retries: 0, // a test that passes at the second try is mended
  forbidOnly: !!process.env.CI,
  reporter: [["list"]],
  use: {
    trace: "off",
    serviceWorkers: "block", // each test would fetch the whole shell for later; those of the shell allow them
    locale: "en-GB", // the units that are offered go by it
    actionTimeout: 90_000,
    contextOptions: { reducedMotion: "reduce" }, // nothing fades or slides: tests do not wait for it
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  projects: [
    { name: "desk", testIgnore: notFor(atTheEngine), use: { viewport: { width: 1280, height: 800 } } },
    {
      name: "phone",
      testIgnore: notFor(atTheDesk),
      use: { viewport: { width: 390, height: 844 }, hasTouch: true },
    },
  ],
});
