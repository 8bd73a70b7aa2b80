import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { Hand, hotEngineToReport, leaks, prime, start, steps } from "./walk";
import { craftOf, isPhone, jobStep, nameFor, openJob } from "./yard";

// Whole jobs, from the first page to the last, by taps alone: no address is typed after the first.

/** Opens the program as it is on a new device: nobody gave a name. */
async function begin(page: Page, keys = false) {
  await page.goto("/");
  return new Hand(page, keys);
}

test("a hot engine nobody knows: three taps to the first check, then found, put right, proved by hand, signed", async ({
  page,
}) => {
  const hand = await begin(page, !isPhone(page)); // at a desk by the keys alone
  const now = page.getByRole("region", { name: "Hot engine now" });
  const kind = now.getByRole("button", { name: "Diesel, closed-cooled", exact: true });
  await kind.waitFor();
  if (hand.keys) await hand.tabTo(kind);
  await hand.tap(kind);
  await hand.button("Hot under load", now);
  await hand.button(/^Go: /, now);
  await expect(page.getByRole("article").first()).toBeVisible();
  expect(hand.taps).toBeLessThanOrEqual(3);
  expect(hand.typed).toBe(0);

  const name = `Walked ${page.viewportSize()?.width}`;
  await hotEngineToReport(hand, name);

  // and it is told of the engine
  await hand.link(/^← /);
  await hand.link(`${name}, Diesel`);
  await expect(page.getByRole("region", { name: "Jobs" })).toContainText("Cured");
});

test("a service from the due list, to closed, within 25 taps", async ({ page }, info) => {
  const name = nameFor(info, "Served");
  await craftOf(page, name, { dates: { impeller_fitted: "2024-05-01" } });
  await page.addInitScript(() => localStorage.setItem("hevrin.writer", "Kit Venn"));
  const hand = await begin(page);
  await hand.link("Due");
  const due = page.getByRole("region", { name: `${name}, Main` });
  await hand.button("Start the job", due.getByRole("article", { name: /Change the impeller/ }));
  await expect(page.getByRole("region", { name: "What to bring" })).toBeVisible();
  await hand.button("Seacock shut");
  await hand.button("Flooding: seen to");
  await hand.button("All of it is off, as listed");
  const holds = page.getByRole("region", { name: "Does the shut seacock hold?" });
  await hand.button(/^It (holds|has stopped)|stopped/i, holds);
  await hand.button("On", page.getByRole("navigation", { name: "Steps of the work" }));
  await hand.button(/^All back: /);
  for (let i = 0; i < 3; i++) await hand.button("Pass done");
  await start(hand);
  await prime(hand);
  await jobStep(page, "Plan");
  hand.taps++;
  await expect(page.getByRole("article", { name: "Change the impeller: done" })).toBeVisible();
  await hand.button("Close the job");
  const close = page.getByRole("dialog");
  await hand.button("Close the job", close);
  await expect(close).toHaveCount(0);
  console.log("service: taps", hand.taps);
  expect(hand.taps).toBeLessThanOrEqual(25);
});

test("a leak, from bilge water to dry", async ({ page }, info) => {
  const name = nameFor(info, "Wet");
  await craftOf(page, name);
  await page.addInitScript(() => localStorage.setItem("hevrin.writer", "Kit Venn"));
  const hand = await begin(page);
  await hand.button(`Start a job on ${name}, Main`);
  const form = page.getByRole("dialog");
  await hand.button("Leak", form);
  await hand.button("Salt, or the lake's", form);
  await hand.type("How much a day, L", "6", form);
  await hand.button("Start the job", form);
  await hand.link("Find", steps(page));
  await hand.button(/Round of the joints|leak round|joints/i);
  const answers = page.getByRole("group", { name: "What did you find?" });
  await hand.button("Yes, it is so", answers);
  await expect(page.getByRole("status", { name: /Found/ }).first()).toBeVisible();
  await hand.link("Repair", steps(page));
  await hand.button("Start", page.getByRole("navigation", { name: "Steps of the work" }));
  await hand.button(/^(Done: put right|Put right)/);
  await hand.link("Prove", steps(page));
  await hand.button(/^Afloat/);
  await start(hand);
  await prime(hand);
  await leaks(hand, "First leak round", false);
  await hand.type("Running, min", "10");
  await hand.button("Save", page.getByRole("form", { name: "What was run" }));
  await leaks(hand, "Last leak round", true);
  await hand.button(/^Sign it as tight/);
  await openJob(page, name);
  await jobStep(page, "Find");
  await expect(page.getByRole("status", { name: "Proved" })).toContainText("Tight: nothing leaks");
});
