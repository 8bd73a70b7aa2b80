import { test as base } from "@playwright/test";
import { demo } from "./simulator";

/** The first port of the programs under test: one for each that tests at the same time. */
const firstPort = 8460;

/**
 * A test, driven in Debian's Chromium against the real program, freshly seeded. Those that run at the same time have a
 * program each: what one adds does not lengthen another's first page, nor have it ask for its own anew.
 */
export const test = base.extend<object, { program: string }>({
  program: [
    // Playwright reads what is needed from the braces: nothing
    // oxlint-disable-next-line no-empty-pattern
    async ({}, give, info) => {
      const own = await demo(firstPort + info.parallelIndex);
      await give(own.address);
      await own.stop();
    },
    { scope: "worker" },
  ],
  baseURL: ({ program }, give) => give(program),
});
export { expect } from "@playwright/test";
