import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { answers, craftOf, jobOf, nameFor, open, part } from "./yard";

/** To a job of its own by taps from the first page. */
async function jobOn(page: Page, name: string, change: object = {}) {
  const engine = await craftOf(page, name, change);
  await jobOf(page, engine, "Hot off the bar");
  await open(page);
  await page
    .getByRole("region", { name })
    .getByRole("link", { name: /Hot off the bar/ })
    .click();
  await expect(page.getByRole("region", { name: "Complaint" })).toBeVisible();
  return engine;
}

const list = (page: Page) => page.getByRole("region", { name: "Before the start" });
const started = (page: Page) => page.getByRole("button", { name: "Engine started" });

async function startPane(page: Page) {
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Start");
  await expect(list(page)).toBeVisible();
}

const step = (page: Page, name: string) =>
  page.getByRole("navigation", { name: "Steps of the work" }).getByRole("button", { name, exact: true }).click();
const tap = (page: Page, name: string) => page.getByRole("button", { name, exact: true }).click();

/** Confirms whatever only a person sees. */
async function confirmAll(page: Page) {
  const confirm = list(page).getByRole("button", { name: /^Confirm: / });
  const names = await confirm.evaluateAll((all) => all.map((b) => b.getAttribute("aria-label") ?? ""));
  for (const name of names) await list(page).getByRole("button", { name, exact: true }).click();
  await expect(confirm).toHaveCount(0);
}

/** Opens a check of the trace, wherever it stands. */
async function check(page: Page, station: string, label: string) {
  await part(page, "Water").catch(() => undefined);
  await page
    .getByRole("group", { name: /the water/i })
    .or(page.getByRole("main"))
    .first()
    .getByRole("button", { name: new RegExp(`^${station}`) })
    .first()
    .click();
  const card = page.getByRole("article", { name: label });
  const offered = page.getByRole("button", { name: new RegExp(label) }).first();
  await expect(card.or(offered).first()).toBeVisible();
  if (!(await card.isVisible())) await offered.click();
  await expect(card).toBeVisible();
  return card;
}

test("nothing is assumed: the seacock that nobody asked for bars the start, and one touch settles it", async ({
  page,
}, info) => {
  await jobOn(page, nameFor(info, "Unasked"));
  await startPane(page);
  await confirmAll(page);
  await expect(list(page).getByRole("status")).toContainText("Not ready: 1 thing open");
  await expect(list(page)).toContainText("nobody said so yet");
  await expect(started(page)).toBeDisabled();
  await tap(page, "Ran just now, nothing opened since");
  await expect(list(page).getByRole("status")).toContainText("Ready to start");
  await started(page).click();
  await expect(page.getByRole("button", { name: "The priming clock" })).toBeVisible();
});

test("a look at the impeller leaves the cover off: the start says so, one touch from settled", async ({
  page,
}, info) => {
  await jobOn(page, nameFor(info, "Looked"));
  await check(page, "Raw-water pump", "Look at the impeller");
  await answers(page).getByRole("button", { name: "All clear: none of these" }).click();
  const strip = page.getByRole("note", { name: "State of the engine" });
  await expect(strip).toContainText("PUMP COVER OFF");
  await strip.click(); // leads to what settles it
  await expect(list(page)).toContainText("Pump cover off");
  await tap(page, "Seacock open: Seacock open");
  await confirmAll(page);
  await expect(list(page).getByRole("status")).toContainText("Not ready: 1 thing open");
  await tap(page, "Closed up again: Pump cover off");
  await expect(strip).toHaveCount(0);
  await confirmAll(page);
  await expect(list(page).getByRole("status")).toContainText("Ready to start");
});

test("the shut seacock is asked whether it holds; one that passes bars what is opened behind it, and the sheet to hang says so", async ({
  page,
}, info) => {
  const name = nameFor(info, "Passing");
  await jobOn(page, name);
  let card = await check(page, "Raw-water pump", "Look at the impeller");
  const behind = page.getByRole("region", { name: "Does the shut seacock hold?" });
  await expect(behind).toHaveCount(0);
  await card.getByRole("button", { name: /^Seacock shut/ }).click();
  await answers(page).getByRole("button", { name: "All clear: none of these" }).click();
  await behind.getByRole("button", { name: "Still coming" }).click();
  await expect(behind).toHaveCount(0);
  await expect(page.getByRole("note", { name: "State of the engine" })).toContainText("SEACOCK PASSES: CLOSE UP");
  await tap(page, "Back to what is next");
  await page.getByText(/^Not offered, and why/).click();
  await expect(page.getByText(/The seacock does not hold/).first()).toBeVisible();

  await page
    .getByRole("link", { name: new RegExp(name) })
    .first()
    .click(); // the engine's own page
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: /^DO NOT START/ }).click();
  expect((await download).suggestedFilename()).toMatch(/-do-not-start\.pdf$/);

  await page.getByRole("note", { name: "State of the engine" }).click();
  await list(page).getByRole("button", { name: "Ashore" }).click(); // no sea to come in
  await expect(page.getByRole("note", { name: "State of the engine" })).not.toContainText("PASSES");
  await expect(list(page)).toContainText("Water on at the hose, before the start");
  card = page.getByRole("region", { name: "Before the start" });
  await expect(card.getByRole("button", { name: "Ashore" })).toHaveAttribute("aria-pressed", "true");
});

test("blades seen missing by a check alone bar the start, until the wheel was tapped and the pieces found", async ({
  page,
}, info) => {
  await jobOn(page, nameFor(info, "Missing"));
  await check(page, "Raw-water pump", "Look at the impeller");
  await answers(page).getByRole("button", { name: "Impeller: Blades missing or torn" }).click();
  await answers(page).getByRole("button", { name: "Save: Blades missing or torn" }).click();
  await expect(page.getByRole("note", { name: "State of the engine" })).toContainText("RUBBER AT LARGE");
  await startPane(page);
  await expect(list(page)).toContainText("how much is not known: tap the wheel");
  await expect(list(page)).toContainText("blades missing");
  await expect(started(page)).toBeDisabled();
  // a whole wheel after it is asked about
  await step(page, "Bench");
  await tap(page, "Save the impeller");
  await step(page, "Start");
  await expect(list(page)).toContainText("which is so?");
  // tapped, left for another pane, and there again
  await step(page, "Bench");
  await page.getByRole("button", { name: /^Blade 2:/ }).click();
  await tap(page, "gone");
  await step(page, "On");
  await page.reload();
  await step(page, "Start");
  await expect(page.getByRole("region", { name: "Not saved yet" })).toContainText("The impeller");
  await step(page, "Bench");
  await expect(page.getByRole("button", { name: "Blade 2: gone" })).toBeVisible();
  await tap(page, "Save the impeller");
  await step(page, "Start");
  await expect(list(page)).toContainText("1.00 of a blade unaccounted for");
});

test("what is tapped on the bench and not saved is there on another device, and gone once it was saved there", async ({
  page,
  browser,
}, info) => {
  const name = nameFor(info, "Handed");
  await jobOn(page, name);
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Bench");
  await page.getByRole("button", { name: /^Blade 3:/ }).click();
  await page.getByRole("group", { name: "Blade 3" }).getByRole("button", { name: "cracked" }).click();
  await expect
    .poll(async () => (await (await page.request.get(`/api/v1/jobs/${jobIn(page)}/drafts`)).text()).includes("cracked"))
    .toBe(true);

  const desk = await browser.newContext({ reducedMotion: "reduce" });
  const other = await desk.newPage();
  await open(other);
  await other
    .getByRole("region", { name })
    .getByRole("link", { name: /Hot off the bar/ })
    .click();
  await other.getByRole("link", { name: "Repair", exact: true }).click();
  await step(other, "Start");
  await expect(other.getByRole("region", { name: "Not saved yet" })).toContainText("The impeller, on another device");
  await step(other, "Bench");
  await expect(other.getByRole("button", { name: "Blade 3: cracked" })).toBeVisible();
  await tap(other, "Save the impeller");
  await step(other, "Start");
  await expect(list(other)).toContainText("a blade is cracked");
  await expect(other.getByRole("region", { name: "Not saved yet" })).toHaveCount(0);
  await desk.close();

  await page.reload();
  await expect(page.getByRole("button", { name: "Blade 3: cracked" })).toBeVisible(); // as it was saved there
  await step(page, "Start");
  await expect(list(page)).toContainText("a blade is cracked");
  await expect(page.getByRole("region", { name: "Not saved yet" })).toHaveCount(0);
});

const jobIn = (page: Page) => /jobs\/([^/]+)/.exec(page.url())?.[1] ?? "";

test("an elbow that the bench condemned does not go back without a reason", async ({ page }, info) => {
  await jobOn(page, nameFor(info, "Elbow"));
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Off");
  await tap(page, "Elbow and riser");
  await tap(page, "Elbow: off");
  await step(page, "Bench");
  await page.getByLabel("Bore at the narrowest, mm").fill("20");
  await page.getByLabel("Bore when new, mm").fill("50");
  await tap(page, "Save the elbow");
  await step(page, "Start");
  await expect(list(page)).toContainText("A fit elbow in place");
  await expect(started(page)).toBeDisabled();
  await step(page, "On");
  await tap(page, "Elbow: the old one back");
  await expect(page.getByText(/^Condemned: 20 mm of 50 mm is left/)).toBeVisible();
  await page.getByLabel("Why the old one goes back").fill("To get home, at idle only");
  await tap(page, "Reuse it");
  await step(page, "Start");
  await expect(list(page)).toContainText("Passed over: To get home, at idle only");
});

test("a hose left off in one job bars the start in the next on that engine", async ({ page }, info) => {
  const name = nameFor(info, "Leftoff");
  const engine = await jobOn(page, name);
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Off");
  await tap(page, "Raw-water pump off and on");
  await tap(page, "Delivery hose at the pump: off");
  await expect(page.getByRole("status", { name: "Still off" })).toContainText("1 part");
  await jobOf(page, engine, "The next one");
  await open(page);
  await page
    .getByRole("region", { name })
    .getByRole("link", { name: /The next one/ })
    .click();
  await expect(page.getByRole("note", { name: "State of the engine" })).toContainText("1 PART OFF");
  await startPane(page);
  await expect(list(page)).toContainText("Delivery hose at the pump");
  await expect(started(page)).toBeDisabled();
  await tap(page, "It is back on: Delivery hose at the pump");
  await expect(list(page)).toContainText("0 of 2 clamps");
  await tap(page, "Two clamps, heads in reach: Delivery hose at the pump: clamped");
  await expect(list(page)).not.toContainText("0 of 2 clamps");
});

const leg = [
  "intake",
  "suction-hose",
  "raw-pump",
  "circ-pump",
  "block",
  "thermostat",
  "elbow",
  "exhaust-hose",
  "outlet",
];

test("a drive leg without a valve never asks for a seacock, one with a valve does", async ({ page }, info) => {
  const raw = { family: "direct", fuel: "petrol", thermostat_c: 62 };
  await jobOn(page, nameFor(info, "Leg"), { ...raw, circuit: [...leg, "gauge", "load"] });
  await startPane(page);
  await expect(list(page)).toContainText("Drive-leg hose back on");
  await expect(list(page)).not.toContainText("Seacock");
  await jobOn(page, nameFor(info, "Valve"), {
    ...raw,
    circuit: ["intake", "seacock", ...leg.slice(1), "gauge", "load"],
  });
  await startPane(page);
  await expect(list(page)).toContainText("Seacock open");
});

test("a second strip-down counts afresh", async ({ page }, info) => {
  await jobOn(page, nameFor(info, "Twice"));
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Off");
  await tap(page, "Impeller change");
  await tap(page, "Cover screws: +1 off");
  for (let n = 2; n <= 4; n++) await tap(page, "Cover screws: +1 off");
  await expect(page.getByText(/^4 off/).first()).toBeVisible();
  await step(page, "On");
  await tap(page, "Cover screws: the old one back");
  await expect(page.getByRole("region", { name: "Tighten: Cover screws" }).getByRole("img")).toHaveAccessibleName(
    "In this order: 1, 4, 2, 5, 3, 6", // a ring of six, however many came off
  );
  await step(page, "Off");
  await tap(page, "Cover screws: 2 off");
  await expect(page.getByText(/^2 off/).first()).toBeVisible(); // not six
});

test("a raw-cooled circulation pump that drips at its weep hole is found, repaired by its own task and started", async ({
  page,
}, info) => {
  const raw = { family: "direct", fuel: "petrol", thermostat_c: 62, circuit: [...leg, "gauge", "load"] };
  await jobOn(page, nameFor(info, "Weeping"), raw);
  await check(page, "Circulation pump", "Look at the circulation pump's weep hole");
  await answers(page).getByRole("button", { name: "Yes, it is so" }).click();
  await expect(page.getByRole("status", { name: "Found" })).toContainText("Circulation pump seal leaking");
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Off");
  await tap(page, "Circulation pump and belt");
  await expect(page.getByText("Drain the block into a vessel first")).toBeVisible(); // and no word of coolant
  await step(page, "Isolate");
  await tap(page, "Leg hose off and plugged");
  await tap(page, "Battery off");
  await step(page, "Off");
  const off = ["Pulley bolts: 4 off", "Belt: off", "Pulley: off", "Hose at the pump: off", "Pump bolts: 6 off"];
  for (const name of [...off, "Circulation pump: off", "Pump gasket: off", "Seals between water and oil: 2 off"])
    await tap(page, name);
  await expect(page.getByRole("note", { name: "State of the engine" })).toContainText("CIRCULATION PUMP OFF");
  await step(page, "On");
  for (const name of ["Seals between water and oil", "Pump gasket", "Circulation pump", "Belt"])
    await tap(page, `${name}: new on`);
  await tap(page, "1 clamp");
  for (const name of ["Pump bolts", "Hose at the pump", "Pulley", "Pulley bolts"])
    await tap(page, `${name}: the old one back`);
  for (const name of ["Pump bolts", "Pulley bolts"]) {
    const turning = page.getByRole("region", { name: `Tighten: ${name}` });
    for (const pass of ["snug", "half", "full"]) {
      await expect(turning).toContainText(pass);
      await turning.getByRole("button", { name: "Pass done" }).click();
    }
  }
  await step(page, "Start");
  await tap(page, "Leg hose back on: Drive-leg hose back on");
  await tap(page, "Battery on: Battery on again");
  await confirmAll(page);
  await expect(list(page).getByRole("status")).toContainText("Ready to start");
  await started(page).click();
  await expect(page.getByRole("button", { name: "The priming clock" })).toBeVisible();
});
