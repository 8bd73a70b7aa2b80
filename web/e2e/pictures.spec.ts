import type { Page } from "@playwright/test";
import { test } from "./own";
import { jobStep, open, part } from "./yard";

// The pictures of docs/screenshots, drawn from the demo by `make pictures`; not a test.
test.skip(!process.env.PICTURES, "run make pictures");
test.describe.configure({ mode: "serial" });

const shoot = async (page: Page, name: string) => {
  await page.mouse.move(0, 0);
  await page.waitForTimeout(500);
  await page.screenshot({ path: `../docs/screenshots/${name}.png` });
};

async function job(page: Page, craft: string) {
  await page
    .getByRole("region", { name: craft })
    .getByRole("link", { name: /May 2026/ })
    .click();
  await page.getByRole("navigation", { name: "Job steps" }).waitFor();
}

const light = (page: Page, l: string) => page.addInitScript((x) => localStorage.setItem("hevrin.light", x), l);

test("desk", async ({ page }) => {
  await light(page, "deck");
  await open(page);
  await page.getByRole("region", { name: "Brackling" }).waitFor();
  await shoot(page, "yard");
  await job(page, "Mudlark's Due");
  await shoot(page, "job-next");
  await page.goto("/");
  await job(page, "Lissamar");
  await jobStep(page, "Find");
  await page.getByRole("status", { name: "Found" }).waitFor();
  await shoot(page, "job-found");
  await page.goto("/");
  await page.getByRole("region", { name: "Corrow Patience" }).getByRole("link", { name: /^Main/ }).click();
  await page.getByRole("region", { name: "Jobs" }).waitFor();
  await shoot(page, "engine");
  await page.goto("/parts");
  await page.getByRole("region", { name: "To order" }).waitFor();
  await shoot(page, "parts");
  await page.goto("/handbook?station=drawings");
  await page.getByRole("figure").first().locator("svg").first().waitFor();
  await shoot(page, "handbook");
});

test("calculators", async ({ page }) => {
  await light(page, "deck");
  await open(page, "/calculators");
  await page.getByRole("heading", { name: "What do you want to know?" }).waitFor();
  await shoot(page, "calculators");
});

test("readings", async ({ page }) => {
  await light(page, "deck");
  await open(page);
  await job(page, "Fathom Ewe");
  await part(page, "Log");
  await page.getByRole("region", { name: "What the readings say" }).waitFor();
  await page.getByText("Temperature in flow order", { exact: false }).first().waitFor();
  await shoot(page, "job-readings");
  await page.getByRole("link", { name: "What would overheat it?" }).click();
  await page.getByLabel("Put a fault on").click();
  await page.getByRole("option", { name: "Strainer clogged" }).click();
  await page.getByRole("status").filter({ hasText: "alarm" }).waitFor();
  await shoot(page, "what-if");
  await page.goBack();
  await part(page, "Log");
  await page.getByRole("link", { name: "Take a round" }).click();
  await page.setViewportSize({ width: 390, height: 844 });
  await page.getByLabel("Speed").fill("2400");
  await page.getByLabel("Sea", { exact: true }).fill("15");
  await page.getByLabel("Heat exchanger, raw water").fill("31");
  await page.getByLabel("Thermostat, coolant").fill("86");
  await shoot(page, "phone-round");
});

test("by hand and wet", async ({ page }) => {
  await light(page, "engine-space");
  await open(page);
  await job(page, "Lissamar");
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  const step = (name: string) =>
    page.getByRole("navigation", { name: "Steps of the work" }).getByRole("button", { name, exact: true }).click();
  await step("Bench");
  await shoot(page, "workbench-dark");
  await page.setViewportSize({ width: 390, height: 844 });
  await light(page, "deck");
  await page.reload();
  await step("On");
  await shoot(page, "phone-rebuild");
  await page.goto("/");
  await job(page, "Old Grummet");
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await page.getByRole("link", { name: "Flush, descale, coolant" }).click();
  await page.getByRole("timer").waitFor();
  await shoot(page, "phone-descaling");
});

test("proved", async ({ page }) => {
  await light(page, "deck");
  await open(page);
  await job(page, "Sallow Ebb");
  await page.getByRole("link", { name: "Report", exact: true }).click();
  await page.getByRole("article", { name: "The owner's report" }).waitFor();
  await shoot(page, "report");
  await page.getByRole("link", { name: "Prove", exact: true }).click();
  await page.getByRole("region", { name: "What it shows" }).waitFor();
  await shoot(page, "proving");
});

test("phone", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await light(page, "engine-space");
  await open(page);
  await job(page, "Mudlark's Due");
  await page.waitForTimeout(8000); // until it was taken along
  await page.route("**/api/v1/**", (r) => r.abort());
  await page.getByRole("button", { name: "Cannot get at it" }).click();
  await page
    .getByRole("status", { name: "No link" })
    .filter({ hasText: /this (phone|computer) goes on/ })
    .waitFor();
  await page.getByRole("status", { name: "No link" }).filter({ hasText: "1 thing waits" }).waitFor();
  await page.waitForTimeout(9000); // the notice went
  await shoot(page, "phone-no-link-dark");
  await page.unroute("**/api/v1/**");
  await page.getByRole("status", { name: "No link" }).waitFor({ state: "hidden" });
  await light(page, "deck");
  await page.goto("/due");
  await page.getByRole("article").first().waitFor();
  await shoot(page, "phone-due");
});

test("practice", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await light(page, "deck");
  await open(page, "/practice");
  await page.getByRole("button", { name: /Water at the outlet first/ }).click();
  await page.getByRole("region", { name: "Practice" }).waitFor();
  await part(page, "Next");
  await page.getByRole("button", { name: /^Start it and look/ }).click();
  await page.getByRole("region", { name: "What you see" }).waitFor();
  await shoot(page, "phone-practice");
  await page.getByRole("button", { name: "Note it as seen" }).click();
  await page.getByRole("button", { name: /^Look: / }).click();
  await page.getByRole("button", { name: "I see" }).click();
  await page.getByRole("button", { name: "End", exact: true }).click();
  await page.getByRole("button", { name: "End it" }).click();
  await page.getByRole("button", { name: "I see" }).click();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole("link", { name: /It is over/ }).click();
  await page.getByRole("region", { name: "What it took" }).waitFor();
  await shoot(page, "practice-review");
});
