import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { engineOf, nameFor, part, startJob } from "./yard";

const job = async (page: Page, craft: string, words: string) => {
  await engineOf(page, craft);
  await startJob(page, craft, words);
  const url = page.url();
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await page.getByRole("link", { name: "Flush, descale, coolant" }).click();
  return url;
};

const seconds = async (page: Page) => {
  const [m, s] = ((await page.getByRole("timer").textContent()) ?? "").split(":").map(Number);
  return (m ?? 0) * 60 + (s ?? 0);
};

test("a descaling in place, from refusals to the gain; its timer minds no clock but the program's", async ({
  page,
  context,
}, info) => {
  const craft = nameFor(info, "Descale");
  const url = await job(page, craft, "Settles higher every month");
  const round = async (exchanger: string, coolant: string) => {
    await page.goto(`${url}/round`);
    await page.getByLabel("Speed").fill("2800");
    await page.getByLabel("Sea", { exact: true }).fill("16");
    await page.getByLabel("Raw water, bucket and watch").fill("58");
    await page.getByLabel("Heat exchanger, raw water").fill(exchanger);
    await page.getByLabel("Heat exchanger, coolant").fill(coolant);
    await page.getByLabel("Thermostat, coolant").fill(coolant === "84" ? "93" : "87");
    await expect(page.getByRole("region", { name: "What the readings say" })).toBeVisible();
    await page.getByRole("button", { name: "Save the round" }).click();
    await expect(page.getByRole("alert").filter({ hasText: "Round saved" })).toBeVisible();
  };
  await round("25.5", "84");
  await page.goto(`${url}/wetwork`);
  await page.getByRole("button", { name: "Descaling" }).click();
  const plan = page.getByRole("region", { name: "Plan a descaling" });
  const fill = async (label: string, v: string) => plan.getByLabel(label, { exact: true }).fill(v);
  await fill("Bath in all, L", "18");
  await fill("Tank holds, L", "15");
  await fill("Loop holds, L", "4");
  await fill("Hoses hold, L", "3");
  await fill("Pump, L/min", "30");
  await fill("Pump draws, A", "5");
  await fill("Scale at least, g", "200");
  await fill("Scale at most, g", "600");
  await plan.getByRole("button", { name: "Plan it" }).click();
  await expect(plan.getByRole("alert")).toContainText("What gear-oil cooler is made of is not said"); // nothing is guessed
  for (const station of ["Raw-water filter", "Gear-oil cooler", "Heat exchanger", "Delivery hoses"])
    await plan
      .getByRole("group", { name: `${station}, made of` })
      .getByRole("button", { name: "copper alloy" })
      .click();
  await plan.getByRole("group", { name: "Heat exchanger, made of" }).getByRole("button", { name: "aluminium" }).click();
  await plan.getByRole("button", { name: "Plan it" }).click();
  const refused = plan.getByRole("alert");
  await expect(refused).toContainText("overflow a tank of 15 L");
  await expect(refused).toContainText("Acid eats aluminium");
  await expect(refused).toContainText("take heat exchanger out of the loop");
  await plan.getByRole("group", { name: "Heat exchanger, made of" }).getByRole("button", { name: "aluminium" }).click();
  await fill("Tank holds, L", "25");
  await plan.getByRole("button", { name: "Plan it" }).click();
  const work = page.getByRole("region", { name: "Descaling", exact: true });
  await expect(work).toContainText("Fuse for the pump");
  await expect(work.getByRole("img", { name: /From the tank by the pump into/ })).toBeVisible();

  // the timer: reload, a second device, a device whose clock is a day off
  await work.getByRole("button", { name: "Begin" }).click();
  await expect(work.getByRole("button", { name: "Pause" })).toBeVisible();
  // acid stands on every screen, and bars the start until it is rinsed
  const strip = page.getByRole("note", { name: "State of the engine" });
  await expect(strip).toContainText("ACID IN THE CIRCUIT");
  await strip.click();
  await expect(page.getByRole("region", { name: "Before the start" })).toContainText("acid is in, by Kit Venn");
  await expect(page.getByRole("button", { name: "Engine started" })).toBeDisabled();
  await page.getByRole("button", { name: "Go there: Acid out and rinsed" }).click();
  await page.waitForTimeout(2500);
  expect(await seconds(page)).toBeGreaterThanOrEqual(2);
  await page.reload();
  await expect(page.getByRole("timer")).toBeVisible();
  const here = await seconds(page);
  expect(here).toBeGreaterThanOrEqual(2);
  const other = await context.newPage();
  await other.addInitScript(() => {
    const real = Date.now.bind(Date);
    Date.now = () => real() + 86_400_000;
  });
  await other.goto(`${url}/wetwork`);
  await expect(other.getByRole("timer")).toBeVisible();
  // read between two readings of the first page, however long a reading takes
  const before = await seconds(page);
  const there = await seconds(other);
  expect(there).toBeGreaterThanOrEqual(before - 1);
  expect(there).toBeLessThanOrEqual((await seconds(page)) + 1);
  await other.close();

  await work.getByRole("button", { name: "strong fizz" }).click();
  await work.getByLabel("pH strip").fill("1.5");
  await work.getByRole("region", { name: "Read the bath" }).getByRole("button", { name: "Save" }).click();
  await expect(work.getByRole("note").filter({ hasText: "look again in ten minutes" })).toBeVisible();
  await work.getByRole("button", { name: "no fizz" }).click();
  await work.getByLabel("pH strip").fill("4.5");
  await work.getByRole("region", { name: "Read the bath" }).getByRole("button", { name: "Save" }).click();
  await expect(work.getByRole("note").filter({ hasText: "stop and rinse" })).toBeVisible();
  for (const stage of [/^Rinsed/, /^Neutralised/, /^Anodes in/])
    await work.getByRole("button", { name: stage }).click();
  await work.getByLabel("Amount, L").fill("18");
  await work.getByLabel("Where it went").fill("Neutralised, marked drum");
  await work.getByRole("button", { name: "Save: waste" }).click();
  await work.getByLabel("Result, in a few words").fill("Tubes bright");
  await work.getByRole("button", { name: "It is done" }).click();
  await expect(work).toContainText("Done");
  await expect(work).toContainText("Take a round now");
  await round("25.6", "70");
  await page.goto(`${url}/wetwork`);
  await expect(page.getByRole("region", { name: "Before and after" })).toContainText(
    /Exchanger \d+ % → \d+ % of healthy: better by/,
  );
  await page.goto("/");
  await page.getByRole("region", { name: craft }).getByRole("link", { name: /^Main/ }).click();
  await page.getByRole("button", { name: "Facts", exact: true }).click();
  await expect(page.getByRole("region", { name: "Flush, descale, coolant" })).toContainText("Descaled");
  await expect(page.getByRole("region", { name: "Flush, descale, coolant" })).toContainText("Next by");
});

test("a coolant change to its end, and a flush that would flood a cylinder", async ({ page }, info) => {
  const craft = nameFor(info, "Coolant");
  const url = await job(page, craft, "Three years old");
  await page.getByRole("button", { name: "Flush", exact: true }).click();
  const flush = page.getByRole("region", { name: "Plan a flush" });
  await flush.getByRole("button", { name: "Plan it" }).click();
  await expect(flush.getByRole("alert")).toContainText("floods the cylinders");
  await flush.getByRole("button", { name: "exhaust hose off at the elbow" }).click();
  await flush.getByRole("button", { name: "Plan it" }).click();
  await expect(page.getByRole("region", { name: "Flush", exact: true })).toContainText("back-flush first");
  const came = page.getByRole("region", { name: "What came out" });
  await came.getByRole("button", { name: "rubber" }).click();
  await came.getByRole("button", { name: "half", exact: true }).click();
  await expect(page.getByRole("region", { name: "Flush", exact: true })).toContainText(
    "Came out: rubber, 0.5 of a blade",
  );
  await page.getByRole("button", { name: "Coolant change" }).click();
  const plan = page.getByRole("region", { name: "Plan a coolant change" });
  for (const [label, v] of [
    ["Block, L", "9"],
    ["Exchanger, L", "3"],
    ["Header, L", "1"],
    ["Heater branch, L", "0"],
    ["Vessel for the old, L", "20"],
    ["Wanted, % by volume", "70"],
  ] as const)
    await plan.getByLabel(label, { exact: true }).fill(v);
  await plan.getByRole("button", { name: "Plan it" }).click();
  await expect(plan.getByRole("alert")).toContainText("freezes earlier again");
  await plan.getByLabel("Wanted, % by volume").fill("45");
  await plan.getByRole("button", { name: "Plan it" }).click();
  const work = page.getByRole("region", { name: "Coolant change", exact: true });
  await expect(work).toContainText("Concentrate");
  for (const [label, v] of [
    ["Out, L", "13"],
    ["In, L", "11.5"],
  ] as const) {
    await work.getByLabel(label, { exact: true }).fill(v);
    await work.getByRole("button", { name: `Save: ${label}` }).click();
  }
  await expect(work).toContainText("1.5 L less went in than came out: air is trapped");
  await work.getByLabel("Topped up, L", { exact: true }).fill("1.4");
  await work.getByRole("button", { name: "Save: Topped up, L" }).click();
  await expect(work).toContainText("Litres in and litres out agree");
  await work.getByLabel("Strength by the tester, %").fill("44");
  await work.getByRole("button", { name: "Save: strength" }).click();
  await work.getByLabel("Engine hours").fill("1312");
  await work.getByRole("button", { name: "It is done" }).click();
  await expect(work).toContainText("Done");
  await page.goto(url);
  await part(page, "Log");
  await expect(page.getByRole("region", { name: "Log" })).toContainText("Flush, descale, coolant: Strength 44 %");
});
