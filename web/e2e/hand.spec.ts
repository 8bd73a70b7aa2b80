import { expect, test } from "./own";
import { craftOf, engineOf, isPhone, jobOf, nameFor, open, openJob, part } from "./yard";

test("the number pad types, turns the sign, goes on, and gives way to the phone's own keyboard", async ({
  page,
}, info) => {
  test.skip(!isPhone(page));
  const name = nameFor(info, "Padded");
  const engine = await craftOf(page, name);
  await jobOf(page, engine, "Hot");
  await open(page);
  await openJob(page, name);
  await part(page, "Log");
  await page.getByRole("link", { name: "Take a round" }).click();
  const pad = page.getByRole("complementary", { name: "Number pad" });
  const key = (label: string) => pad.getByRole("button", { name: label, exact: true }).click();
  await page.getByLabel("Speed").click();
  await expect(pad).toContainText("Speed");
  for (const d of ["2", "4", "1", "Delete", "0", "0"]) await key(d);
  await expect(page.getByLabel("Speed")).toHaveValue("2400");
  await expect(pad).toContainText("2400 rev/min");
  await key("Next");
  const sea = page.getByLabel("Sea", { exact: true });
  await expect(sea).toBeFocused();
  for (const d of ["1", "Point", "5", "Minus"]) await key(d);
  await expect(sea).toHaveValue("-1.5");
  // what is typed into stands above the pad
  const [field, top] = [await sea.boundingBox(), await pad.boundingBox()];
  expect((field?.y ?? 0) + (field?.height ?? 0)).toBeLessThan(top?.y ?? 0);
  await key("Use the phone's own keyboard");
  await expect(pad).toHaveCount(0);
  await expect(sea).toBeFocused();
  await page.reload();
  await page.getByLabel("Speed").click();
  await expect(pad).toHaveCount(0);
});

test("figures pasted from a spreadsheet lie in their fields", async ({ page }, info) => {
  test.skip(isPhone(page));
  const name = nameFor(info, "Pasted");
  const engine = await craftOf(page, name);
  const job = await jobOf(page, engine, "Hot");
  await open(page, `/jobs/${job}/datalog`);
  const cell = (label: string, line: number) => page.getByLabel(`${label}, line ${line}`);
  const symbol = "°C";
  await page.waitForTimeout(2500); // what takes in a table comes a moment after the first screen
  await cell(`Coolant, ${symbol}`, 2).focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text", "41\t40\r\n52,5\t51\r\n");
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByText("Pasted: 4 figures")).toBeVisible();
  await expect(cell(`Coolant, ${symbol}`, 3)).toHaveValue("52,5");
  await expect(cell(`Gauge, ${symbol}`, 2)).toHaveValue("40");
  await expect(cell(`Coolant, ${symbol}`, 4)).toHaveValue("");
});

test("an engine that was taken out lies in the archive, and comes back", async ({ page }, info) => {
  test.skip(isPhone(page));
  const name = nameFor(info, "Re-engined");
  await engineOf(page, name);
  const row = page.getByRole("region", { name, exact: true });
  await row.getByRole("link", { name: /^Main/ }).click();
  const put = async (label: string) => {
    await page.getByRole("button", { name: "Change facts" }).click();
    await page.getByRole("dialog").getByRole("button", { name: label, exact: true }).click();
    await expect(page.getByRole("dialog")).toHaveCount(0);
  };
  await put("Archive");
  await expect(page.getByText(/In the archive: nothing is due on it/)).toBeVisible();
  await page.getByRole("link", { name: "Hevrin" }).click();
  await expect(row.getByRole("link", { name: /^Main/ })).toHaveCount(0);
  await row.getByRole("button", { name: `Archive of ${name}: 1` }).click();
  await row.getByRole("link", { name: /^Main/ }).click();
  await put("Out of the archive");
  await page.getByRole("link", { name: "Hevrin" }).click();
  await expect(row.getByRole("link", { name: /^Main/ })).toBeVisible();
});
