import type { Locator, Page } from "@playwright/test";
import { expect, test } from "./own";
import { engineOf, isPhone, nameFor, open, part, startJob } from "./yard";

const field = (at: Page | Locator, name: string) => at.getByRole("textbox", { name, exact: true });

const answer = (page: Page) => page.getByRole("region", { name: "Answer" });

async function sum(page: Page, find: string, asks: string) {
  await open(page, "/");
  await page.getByRole("link", { name: "Calculators" }).click();
  await page.getByLabel("Find").fill(find);
  await page.getByRole("link", { name: new RegExp(asks) }).click();
  await expect(page.getByRole("heading", { name: asks })).toBeVisible();
}

/** The units of the whole program, where they are changed. */
async function units(page: Page, system: string) {
  await page.getByRole("button", { name: /^Units: / }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: new RegExp(`^${system}:`) }).click();
  await dialog.getByRole("button", { name: "That is me" }).click();
}

test("the raw water is timed into a bucket, kept in the job, and opened again", async ({ page }, info) => {
  const craft = nameFor(info, "Bucket");
  await engineOf(page, craft);
  await startJob(page, craft, "Weak water");
  await part(page, "Log");
  await page.getByRole("link", { name: "Work something out" }).click();
  await page.getByRole("link", { name: /How much raw water/ }).click();
  await expect(answer(page)).toContainText("Still to fill in");
  await field(page, "Bucket").fill("10");
  await field(page, "Times to fill it, 1").fill("12");
  await field(page, "Times to fill it, 2").fill("13");
  await field(page, "Times to fill it, 3").fill("14");
  await expect(answer(page)).toContainText("46.2 ± 2.2 L/min");
  await page.getByRole("button", { name: "Save it in a job" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("button", { name: new RegExp(craft) })).toHaveAttribute("aria-pressed", "true");
  await dialog.getByLabel("A word with it").fill("At 2400");
  await dialog.getByRole("button", { name: "Save it" }).click();
  await expect(page.getByRole("alert").filter({ hasText: `Kept with ${craft}` })).toBeVisible();

  await page.goBack();
  await page.goBack();
  await part(page, "Log");
  const kept = page.getByRole("region", { name: "Calculators" });
  await expect(kept).toContainText("Raw water flow: 46.2 L/min (± 2.2)");
  await expect(kept).toContainText("At 2400");
  await page.evaluate(() => localStorage.removeItem("hevrin.sum.bucket-flow"));
  await kept.getByRole("link", { name: /How much raw water/ }).click();
  await expect(field(page, "Times to fill it, 3")).toHaveValue("14");
  await expect(answer(page)).toContainText("46.2");
});

test("units are understood as they are typed, in every system", async ({ page }) => {
  await sum(page, "heat flow", "How much heat does the water carry off?");
  await field(page, "Flow").fill("12 gpm");
  await field(page, "Before").fill("64.4F");
  await field(page, "After").fill("29.5");
  await expect(page.getByText("read as 45.4 L/min")).toBeVisible();
  await expect(page.getByText("read as 18.0 °C")).toBeVisible();
  await expect(answer(page)).toContainText("35.7");
  await units(page, "US");
  await field(page, "After").fill("85.1");
  await expect(answer(page)).toContainText("47.89 hp");
  await field(page, "Flow").fill("12");
  await expect(answer(page)).toContainText("47.89 hp");
  await units(page, "Imperial");
  await field(page, "After").fill("29.5 ± 0.5");
  await field(page, "Before").fill("18");
  await expect(answer(page)).toContainText("42.89 ± 1.87 kW"); // 12 imperial gallons a minute
  await page.getByRole("button", { name: /^Flow in imp gpm/ }).click();
  await page.getByRole("menuitem", { name: "L/min", exact: true }).click();
  await field(page, "Flow").fill("45");
  await expect(answer(page)).toContainText("35.38");
});

test("a slip is told at its field and nothing typed is lost, not by a reload either", async ({ page }) => {
  await sum(page, "glycol concentrate", "How much concentrate?");
  await field(page, "System holds").fill("14");
  await field(page, "Wanted, by volume").fill("70");
  await expect(page.getByRole("alert")).toContainText("70 is out of range, which goes from 0 to 60 %");
  await expect(answer(page)).toContainText("Something does not fit");
  await field(page, "Wanted, by volume").fill("lots");
  await expect(page.getByRole("alert")).toContainText("is not a number");
  await field(page, "Wanted, by volume").fill("45");
  await expect(answer(page)).toContainText("6.30 L");
  await page.reload();
  await expect(field(page, "System holds")).toHaveValue("14");
  await expect(answer(page)).toContainText("6.30 L");
  await expect(page.getByRole("region", { name: "Cautions" })).toContainText("Poisonous to people and pets");
});

test("without a link the sum says so, keeps what was typed and answers later", async ({ page }) => {
  await sum(page, "emissivity", "What is the surface really at?");
  await page.route("**/api/v1/calc/**", (r) => r.abort());
  await page.route("**/assets/phone*", (r) => r.abort()); // nor is the program that answers on the device
  await field(page, "Reading").fill("42");
  await page.getByRole("button", { name: "Oxidised brass" }).click();
  await expect(page.getByText("The program does not answer; what you typed stays.")).toBeVisible();
  await page.unroute("**/api/v1/calc/**");
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(answer(page)).toContainText("50.8 °C");
});

const log = () => {
  const lines = ["Time;Coolant (°F);note"];
  for (let m = 0; m <= 20; m++) lines.push(`${m}:00;${(Math.min(20 + 9 * m, 84) * 9) / 5 + 32};x`);
  return lines.join("\n");
};

test("a logger's file is dropped or pasted, and the run is judged", async ({ page }) => {
  await sum(page, "settle", "Did the run settle?");
  await field(page, "Thermostat's rating").fill("82");
  await page
    .getByLabel("The run: open a CSV file")
    .setInputFiles({ name: "run.csv", mimeType: "text/csv", buffer: Buffer.from(log()) });
  await expect(answer(page)).toContainText("Steady");
  await expect(page.getByRole("img", { name: /The run\. Coolant from/ })).toBeVisible();
  const table = page.getByLabel("The run as a table");
  await expect(table).toHaveValue(/Coolant \(°F\)/);
  await table.fill("Time,Coolant\n0,20\n60,warm");
  await expect(page.getByRole("alert").first()).toBeVisible();
  await page.getByRole("button", { name: "Type rows instead" }).click();
  const row = page.getByRole("group", { name: "The run, 1", exact: true });
  await field(row, "Time").evaluate((el, text) => {
    const data = new DataTransfer();
    data.setData("text", text);
    el.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  }, log());
  await expect(answer(page)).toContainText("Steady");
});

test("the thermostat is judged row by row, in °F", async ({ page }) => {
  await sum(page, "thermostat", "Is the thermostat good?");
  await units(page, "US");
  await field(page, "Rating stamped on it").fill("180");
  const rows = [
    ["140", "0"],
    ["176", "0.008"],
    ["203", "0.35"],
  ];
  await page.getByRole("button", { name: "Another row" }).click();
  for (const [i, [water, lift]] of rows.entries()) {
    const row = page.getByRole("group", { name: `Readings, in the order taken, ${i + 1}`, exact: true });
    await field(row, "Water").fill(water ?? "");
    await field(row, "Lift").fill(lift ?? "");
  }
  await expect(answer(page)).toContainText("Good");
  await expect(answer(page)).toContainText("176.9 °F");
  await expect(answer(page)).toContainText("It opens at 176.9 °F against its rating of 180 °F", { ignoreCase: true });
});

test("every calculator answers its example, shows its working and prints", async ({ page }, info) => {
  test.skip(info.project.name === "phone", "the same answers");
  const { sums } = (await (await page.request.get("/api/v1/calc")).json()) as {
    sums: { name: string; asks: string; cautions: string[] }[];
  };
  for (const s of sums) {
    await open(page, `/calculators/${s.name}`);
    await page.getByRole("button", { name: "Fill in an example" }).click();
    await expect(page.getByRole("button", { name: "Save it in a job" })).toBeEnabled();
    await page.getByRole("button", { name: "Show the working" }).click();
    await expect(answer(page).getByRole("listitem").first()).toBeVisible();
    await expect(answer(page)).toContainText("What the figures mean");
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect(wide, `${s.name} scrolls sideways`).toBeLessThanOrEqual(0);
  }
  await page.evaluate(() => localStorage.setItem("hevrin.light", "engine-space"));
  await page.emulateMedia({ media: "print" });
  await expect(page.locator("body")).toHaveCSS("color", "rgb(8, 25, 31)"); // dark ink on paper, whatever the screen was
  await expect(page.getByRole("button", { name: "Print" })).toBeHidden();
  await expect(answer(page)).toContainText("From");
});

test("acid carries its cautions before anything is typed", async ({ page }) => {
  await sum(page, "acid", "How much acid, how much water?");
  await page.getByRole("button", { name: "Hydrochloric" }).click();
  await field(page, "Strength as bought, by mass").fill("30");
  await field(page, "Strength wanted, by mass").fill("6");
  await field(page, "Volume to circulate").fill("12");
  await expect(page.getByRole("region", { name: "Cautions" })).toContainText("Acid into water, never water into acid");
  await expect(answer(page)).toContainText("on the bench only");
  if (isPhone(page)) await expect(page.getByText("Acid as bought").first()).toBeVisible();
});
