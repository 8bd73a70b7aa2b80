import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { craftOf, jobOf, nameFor, open } from "./yard";

const step = (page: Page, name: string) =>
  page.getByRole("navigation", { name: "Steps of the work" }).getByRole("button", { name, exact: true }).click();
const tap = (page: Page, name: string) => page.getByRole("button", { name, exact: true }).click();

test("a gasket that was not there: sealant for now, due on the list; the job waits, and says for what", async ({
  page,
}, info) => {
  const name = nameFor(info, "Sealed");
  const engine = await craftOf(page, name);
  await jobOf(page, engine, "Drips at the cover");
  await open(page);
  await page
    .getByRole("region", { name })
    .getByRole("link", { name: /Drips at the cover/ })
    .click();
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await tap(page, "Impeller change");
  await expect(page.getByRole("region", { name: "What to bring" })).toContainText("Impeller puller");
  await tap(page, "Seacock shut");
  await step(page, "Off");
  await tap(page, "Cover gasket or O-ring: off");
  await tap(page, "Impeller: off");
  await step(page, "On");
  await tap(page, "Impeller: new on");
  await expect(page.getByRole("region", { name: "Parts used" })).toContainText("1 × Impeller, fitted new");
  await tap(page, "Cover gasket or O-ring: sealant for now");
  await page.getByLabel("Sealant until the proper part").fill("grey, thin");
  // what is typed and not saved outlives a reload
  await page.reload();
  await tap(page, "Cover gasket or O-ring: sealant for now");
  await expect(page.getByLabel("Sealant until the proper part")).toHaveValue("grey, thin");
  await tap(page, "Save how");
  await expect(page.getByRole("region", { name: "Back on" })).toContainText(
    "sealant until the proper part: grey, thin",
  );

  await step(page, "Start");
  await page.getByLabel("Which, and until when").fill("gasket, on order");
  await tap(page, "Pause");
  const paused = page.getByRole("region", { name: "The job is paused" });
  await expect(paused).toContainText("Waiting for a part: gasket, on order");
  await page.getByRole("link", { name: "Hevrin" }).click();
  await expect(page.getByRole("region", { name })).toContainText("Waiting for a part: gasket, on order");
  await page.getByRole("link", { name: "Due", exact: true }).first().click();
  const month = new Date(Date.now() + 90 * 86_400_000).toLocaleDateString("en-GB", { month: "short", timeZone: "UTC" });
  await page
    .getByRole("group", { name: "The year ahead" })
    .getByRole("button", { name: new RegExp(`^${month}`) })
    .click();
  const due = page.getByRole("region", { name: new RegExp(name) });
  const item = due.getByRole("article", { name: /Fit the proper part: cover gasket or O-ring/i });
  await expect(item).toBeVisible();
  await item.getByRole("button", { name: /^Fit the proper part/ }).click();
  await item.getByRole("button", { name: "It was done" }).click();
  await item.getByRole("button", { name: "Put it down" }).click();
  await expect(item).toHaveCount(0);

  await page.getByRole("link", { name: "Hevrin" }).click();
  await page
    .getByRole("region", { name })
    .getByRole("link", { name: /Drips at the cover/ })
    .click();
  await tap(page, "It goes on");
  await expect(paused).toHaveCount(0);
});

test("a pump of another type is the engine's pump from then on", async ({ page }, info) => {
  const name = nameFor(info, "Repumped");
  const engine = await craftOf(page, name);
  await jobOf(page, engine, "Pump past mending");
  await open(page);
  await page
    .getByRole("region", { name })
    .getByRole("link", { name: /Pump past mending/ })
    .click();
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await tap(page, "Raw-water pump off and on");
  await tap(page, "Seacock shut");
  await step(page, "Off");
  await tap(page, "Pump: off");
  await step(page, "On");
  await tap(page, "Pump: new on");
  await tap(page, "Pump: say how");
  await page.getByLabel("Type on the new pump's plate").fill("QX 41");
  await tap(page, "Ports turned");
  await tap(page, "Save how");
  await expect(page.getByRole("region", { name: "Back on" })).toContainText("ports turned; plate: QX 41");
  await page.getByRole("link", { name: new RegExp(`← ${name}`) }).click();
  await page
    .getByRole("heading", { level: 1 })
    .getByRole("link", { name: new RegExp(name) })
    .click();
  await expect(page.getByText(/raw-water pump QX 41/).first()).toBeVisible();
});
