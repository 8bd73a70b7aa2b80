import type { Page } from "@playwright/test";
import axe from "axe-core";
import { expect, test } from "./own";
import { go, isPhone, jobStep, open, part } from "./yard";

// with each page once, and not for each look: to read it takes longer than to look
test.beforeEach(({ page }) => page.addInitScript({ content: axe.source }));

/** What is against the rules, or against some of them; no tale of what is well. */
const against = (page: Page, only?: string[]) =>
  page.evaluate(async (rules) => {
    const inThePage = (globalThis as unknown as { axe: typeof axe }).axe;
    return (await inThePage.run({ resultTypes: ["violations"], ...(rules && { runOnly: rules }) })).violations;
  }, only);

async function clean(page: Page, where: string) {
  const view = page.viewportSize();
  const tall = await page.evaluate(() => document.documentElement.scrollHeight);
  if (view) await page.setViewportSize({ ...view, height: Math.max(view.height, tall) }); // nothing under the bar at the foot
  const violations = await against(page);
  // the other light changes nothing but the colours, and each is the light of one width
  if (
    process.env.ALL_BROWSER_TESTS &&
    (await page.getByRole("dialog").or(page.getByRole("alertdialog")).count()) === 0
  ) {
    const turn = page.getByRole("button", { name: /for the (deck|engine space)$/ });
    await turn.click();
    violations.push(...(await against(page, ["color-contrast"])));
    await turn.click();
  }
  expect
    .soft(violations.map((v) => `${where}: ${v.id} ${v.nodes.map((n) => n.html.slice(0, 160)).join(", ")}`))
    .toEqual([]);
  if (view) await page.setViewportSize(view);
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(wide, `${where} scrolls sideways`).toBeLessThanOrEqual(0);
}

for (const light of ["deck", "engine-space"]) {
  test(`every screen is accessible and fits, ${light}`, async ({ page }, info) => {
    test.skip((info.project.name === "phone") === (light === "deck")); // each width begins in one of the two
    test.setTimeout(600_000); // fifty screens, and a slow machine fails nothing
    await page.addInitScript((l) => localStorage.setItem("hevrin.light", l), light);
    await open(page);
    await page.getByRole("region", { name: "Brackling" }).waitFor();
    await clean(page, "yard");
    await page.getByRole("button", { name: "Diesel, closed-cooled", exact: true }).click();
    await page.getByRole("button", { name: "Hot at idle" }).click();
    await clean(page, "hot engine now");
    await page.getByRole("button", { name: "Search" }).click();
    await page.getByRole("searchbox").fill("impeller");
    await page.getByRole("region", { name: "Handbook: checks" }).waitFor();
    await clean(page, "search");
    await page.getByRole("button", { name: "Close" }).click();
    await page.getByRole("button", { name: "Start a job on Brackling, Main" }).click();
    await page.getByRole("button", { name: "Leak", exact: true }).click();
    await clean(page, "start a leak");
    await page.getByRole("button", { name: "Service", exact: true }).click();
    await clean(page, "start");
    await page.getByRole("button", { name: "Not now" }).click();
    await page
      .getByRole("region", { name: "Lissamar" })
      .getByRole("link", { name: /Found:/ })
      .click();
    await jobStep(page, "Find");
    await page.getByRole("article").waitFor();
    for (const name of isPhone(page)
      ? ["Complaint", "Next", "Water", "Suspects", "Log"]
      : ["Complaint", "Next", "Log"]) {
      await part(page, name);
      await clean(page, name);
    }
    await part(page, "Next");
    await page.getByRole("button", { name: "Close the job all the same" }).click();
    await clean(page, "close");
    await page.getByRole("button", { name: "Go on looking" }).click();
    await page.getByRole("link", { name: "Lissamar, Main" }).click();
    await page.getByRole("region", { name: "Jobs" }).waitFor();
    await clean(page, "engine");
    for (const name of ["Trends", "Service history", "Lay-up and spring", "Facts"]) {
      await page.getByRole("navigation", { name: "The engine's record" }).getByRole("button", { name }).click();
      await clean(page, `engine: ${name}`);
    }
    await page.getByRole("button", { name: "Change facts" }).click();
    await clean(page, "engine form");
    await go(page, "/due");
    await page.getByRole("article").first().waitFor();
    await clean(page, "due");
    await go(page, "/parts");
    await page.getByRole("article").first().waitFor();
    await clean(page, "shelf");
    await go(page, "/record");
    await page.getByRole("region", { name: "Backups" }).waitFor();
    await clean(page, "record");
    await go(page, "/methods");
    await page.getByRole("button", { name: "Change: Thermostat", exact: true }).click();
    await clean(page, "book");
    await go(page, "/methods");
    await page.getByRole("link", { name: /How good was the advice/ }).click();
    await page.getByRole("region", { name: "Job by job" }).waitFor();
    await clean(page, "hindsight");
    await go(page, "/");
    const open_ = async (craft: string, link: string) => {
      await go(page, "/");
      await page
        .getByRole("region", { name: craft })
        .getByRole("link", { name: /\b20\d\d\b/ })
        .first()
        .click();
      await page.getByRole("link", { name: "Repair", exact: true }).click();
      await page.getByRole("navigation", { name: "Steps of the work" }).waitFor();
      if (link) await page.getByRole("link", { name: link }).click();
    };
    await open_("Lissamar", "");
    for (const step of ["Off", "Bench", "On", "Start"]) {
      await page.getByRole("navigation", { name: "Steps of the work" }).getByRole("button", { name: step }).click();
      await clean(page, `hands: ${step}`);
    }
    await open_("Old Grummet", "Flush, descale, coolant");
    await page.getByRole("timer").waitFor();
    await clean(page, "wet work");
    await go(page, "/");
    await page
      .getByRole("region", { name: "Sallow Ebb" })
      .getByRole("link", { name: /\b20\d\d\b/ })
      .first()
      .click();
    await jobStep(page, "Prove");
    await page.getByRole("region", { name: "What it shows" }).waitFor();
    await clean(page, "proving run");
    await page.getByRole("link", { name: "Take in a logger's file, or type readings" }).click();
    await page.getByRole("heading", { name: "Readings over time" }).waitFor();
    await clean(page, "logger");
    await jobStep(page, "Report");
    await page.getByRole("article", { name: "The owner's report" }).waitFor();
    await clean(page, "papers");
    await go(page, "/handbook?station=elbow");
    await page.getByRole("button", { name: /^Elbow or riser narrowed by a third/ }).click();
    await clean(page, "handbook");
    await go(page, "/");
    await page
      .getByRole("region", { name: "Fathom Ewe" })
      .getByRole("link", { name: /May 2026/ })
      .click();
    await part(page, "Log");
    await page.getByRole("region", { name: "What the readings say" }).waitFor();
    await clean(page, "readings");
    await page.getByRole("link", { name: "What would overheat it?" }).click();
    await page.getByRole("region", { name: "What is left" }).waitFor();
    await clean(page, "what if");
    await page.goBack();
    await part(page, "Log");
    await page.getByRole("link", { name: "Take a round" }).click();
    await page.getByLabel("Speed").fill("2400");
    await page.getByLabel("Sea", { exact: true }).fill("16");
    await page.getByLabel("Thermostat, coolant").fill("99");
    await page.getByRole("region", { name: "What the readings say" }).waitFor();
    await clean(page, "round");
    await go(page, "/calculators");
    await page.getByRole("heading", { name: "What do you want to know?" }).waitFor();
    await clean(page, "sums");
    for (const name of ["exchanger-rating", "thermostat-pot", "descale", "run-check", "repair-choice", "bucket-flow"]) {
      await go(page, `/calculators/${name}`);
      await page.getByRole("button", { name: "Fill in an example" }).click();
      await page.getByRole("button", { name: "Show the working" }).click();
      await clean(page, name);
    }
    await page.getByRole("button", { name: "Save it in a job" }).click();
    await clean(page, "keep a sum");
    await go(page, "/nowhere");
    await page.getByText("There is nothing here").waitFor();
    await clean(page, "missing");
  });
}

for (const light of ["deck", "engine-space"]) {
  test(`practice is accessible and fits, ${light}`, async ({ page }, info) => {
    test.skip((info.project.name === "phone") === (light === "deck"));
    await page.addInitScript((l) => localStorage.setItem("hevrin.light", l), light);
    await open(page);
    await page.getByRole("link", { name: "Practice", exact: true }).click();
    await page.getByRole("region", { name: "Lessons" }).waitFor();
    await clean(page, "practice");
    await page.getByRole("link", { name: /Try your own way/ }).click();
    await page.getByRole("region", { name: "Your way" }).waitFor();
    await clean(page, "bench of methods");
    await page.getByRole("link", { name: "← Practice" }).click();
    await page.getByRole("button", { name: /Water at the outlet first/ }).click();
    await page.getByRole("region", { name: "Practice" }).waitFor();
    await part(page, "Next");
    await page.getByRole("button", { name: /^Start it and look/ }).click();
    await page.getByRole("region", { name: "What you see" }).waitFor();
    await clean(page, "practice: seen");
    await page.getByRole("button", { name: "Note it as seen" }).click();
    await page.getByRole("button", { name: /^Look: / }).click();
    await page.getByRole("alertdialog").waitFor();
    await clean(page, "practice: danger");
    await page.getByRole("button", { name: "I see" }).click();
    await page.getByRole("button", { name: "Hint", exact: true }).click();
    await clean(page, "practice: hint");
    await page.getByRole("button", { name: "Close" }).click();
    await page.getByRole("button", { name: "Wait", exact: true }).click();
    await clean(page, "practice: wait");
    await page.getByRole("button", { name: "Not now" }).click();
    await jobStep(page, "Prove");
    await page.getByRole("button", { name: /^Run it/ }).click();
    await page.getByRole("alertdialog").waitFor(); // the lid is still off
    await page.getByRole("button", { name: "I see" }).click();
    await clean(page, "practice: run");
    await page.getByRole("button", { name: "End", exact: true }).click();
    await page.getByRole("button", { name: "End it" }).click();
    await page.getByRole("button", { name: "I see" }).click();
    await page.getByRole("link", { name: /It is over/ }).click();
    await page.getByRole("region", { name: "What it took" }).waitFor();
    await clean(page, "practice: review");
  });
}
