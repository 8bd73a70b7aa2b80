import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { isPhone, jobStep, part } from "./yard";

// One system of units through everything that a job shows: what is of another is found in the words on the screen.

const metricSigns = /\d\s*(°C|L\b|L\/min|mL\b|kPa|kg\b|mm\b|cm\b|m²)/;
const others: Record<string, RegExp> = {
  us: /\d\s*(°C|L\b|L\/min|mL\b|kPa|mm\b|cm\b|imp gal|imp gpm)/,
  imperial: /\d\s*(°F|L\b|L\/min|mL\b|kPa|mm\b|cm\b|US gal|US gpm)/,
  metric: /\d\s*(°F|US gal|US gpm|imp gal|imp gpm|psi\b| in\b(?! the| a| its))/,
};

/** A part's own name says what it is sold as. */
const named = /Pencil anode|Thermostat 82 °C with gasket/;

/** What stands on the screen that speaks in another system. */
async function strangers(page: Page, where: string, of: RegExp): Promise<string[]> {
  await expect(page.locator("[aria-busy=true]")).toHaveCount(0);
  const text = await page.evaluate(async () => {
    for (let frame = 0; frame < 2; frame++)
      // what stands around the middle comes after it
      await new Promise((drawn) => requestAnimationFrame(drawn));
    const fields = [...document.querySelectorAll("label")].map((l) => l.textContent);
    return [document.body.innerText, ...fields].join("\n");
  });
  return text
    .split("\n")
    .filter((line) => of.test(line) && !named.test(line))
    .map((line) => `${where}: ${line.trim()}`);
}

for (const [system, of] of Object.entries(others)) {
  test(`a whole job speaks one system of units: ${system}`, async ({ page }) => {
    test.skip(isPhone(page));
    test.skip(!process.env.ALL_BROWSER_TESTS && system !== "us"); // the others by the same path
    expect(metricSigns.test("at 82 °C")).toBe(true);
    await page.addInitScript((s) => {
      localStorage.setItem("hevrin.writer", "Kit Venn");
      localStorage.setItem("hevrin.units", s);
    }, system);
    const out: string[] = [];
    const look = async (where: string) => void out.push(...(await strangers(page, `${system}, ${where}`, of)));
    await page.goto("/");
    for (const craft of ["Old Grummet", "Brackling", "Lissamar", "Mudlark's Due"]) {
      await page.getByRole("link", { name: "Hevrin" }).click();
      await page
        .getByRole("region", { name: craft, exact: true })
        .getByRole("link", { name: /\b20\d\d\b/ })
        .first()
        .click();
      await jobStep(page, "Find");
      for (const pane of ["Complaint", "Next", "Log"]) {
        await part(page, pane);
        await look(`${craft}, ${pane}`);
      }
      await jobStep(page, "Repair");
      for (const step of ["Isolate", "Off", "Bench", "On", "Start"]) {
        await page.getByRole("navigation", { name: "Steps of the work" }).getByRole("button", { name: step }).click();
        await look(`${craft}, ${step}`);
      }
      await page.getByRole("link", { name: "Flush, descale, coolant" }).click();
      await look(`${craft}, wet work`);
      for (const plan of await page
        .getByRole("main")
        .getByRole("button", { name: /^(Flush|Descale|Coolant)/ })
        .all()) {
        await plan.click();
        await look(`${craft}, wet work plan`);
      }
      await jobStep(page, "Prove");
      await look(`${craft}, prove`);
      await jobStep(page, "Report");
      await page.getByRole("article", { name: "The owner's report" }).waitFor();
      await look(`${craft}, report`);
      await page.getByRole("link", { name: new RegExp(`^← ${craft}`) }).click();
      await page.getByRole("heading", { level: 1 }).getByRole("link").click();
      for (const pane of ["Due, and jobs", "Trends", "Service history", "Facts"]) {
        await page.getByRole("navigation", { name: "The engine's record" }).getByRole("button", { name: pane }).click();
        await look(`${craft}, ${pane}`);
      }
    }
    expect([...new Set(out)]).toEqual([]);
  });
}
