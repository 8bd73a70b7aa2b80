import { expect, test } from "./own";
import { demo } from "./simulator";
import { answers, craftOf, jobOf, open } from "./yard";

// a yard of its own: what it goes by would move every other test's suspects and minutes
test.use({ baseURL: "http://127.0.0.1:8436" });

let own: Awaited<ReturnType<typeof demo>>;
test.beforeAll(async () => {
  own = await demo(8436);
});
test.afterAll(() => own.stop());

test("a yard looks back on its jobs, goes by its own minutes, and is told what to look at before it closes up", async ({
  page,
}) => {
  const engine = await craftOf(page, "Hollin");
  await jobOf(page, engine, "Hot off the bar");
  await open(page);
  await page.getByRole("link", { name: "Tasks and methods" }).click();
  await page.getByRole("link", { name: /How good was the advice/ }).click();
  await expect(page.getByRole("region", { name: "Where the cause stood" })).toContainText(/\d of \d first/);
  await expect(page.getByRole("region", { name: "Job by job" }).getByRole("listitem").first()).toContainText("min");

  // nothing is chosen for the yard; what is chosen is told with who chose it, and can be given back
  const minutes = page.getByRole("region", { name: "Minutes" });
  await expect(minutes).toContainText("The yard goes by the catalogue.");
  await minutes.getByRole("button", { name: "Go by your own" }).click();
  await expect(minutes).toContainText("The yard goes by its own: Kit Venn chose so");
  await expect(minutes.getByRole("button", { name: "Take those of today" })).toHaveCount(0);
  await minutes.getByRole("button", { name: "Go by the catalogue again" }).click();
  await expect(minutes).toContainText("The yard goes by the catalogue.");
  const rates = page.getByRole("region", { name: "Base rates" });
  await rates.getByRole("button", { name: "Go by your own" }).click();
  await expect(rates).toContainText("Kit Venn chose so");

  // a comeback is dear here
  const comeback = page.getByRole("region", { name: "What a comeback costs" });
  for (let i = 0; i < 8; i++) await comeback.getByRole("button", { name: /: more$/ }).click();
  await comeback.getByRole("button", { name: /^Go by/ }).click();
  await expect(comeback.getByRole("button", { name: /^Go by/ })).toHaveCount(0);
  await page.getByRole("link", { name: "← Tasks and methods" }).click();
  await expect(page.getByText("The yard's own figures: what a comeback costs")).toBeVisible();

  // so that something found is not closed up before what may lie beside it was looked at
  await page.getByRole("link", { name: "Hevrin" }).click();
  await page
    .getByRole("region", { name: "Hollin" })
    .getByRole("link", { name: /Hot off the bar/ })
    .click();
  await page.getByRole("link", { name: "Find", exact: true }).click();
  await page
    .getByRole("button", { name: /^Raw-water pump/ })
    .first()
    .click();
  await page.getByRole("button", { name: /Look at the impeller/ }).click();
  await answers(page)
    .getByRole("button", { name: /Blades missing or torn/ })
    .first()
    .click();
  await answers(page)
    .getByRole("button", { name: /^Save: / })
    .click();
  const first = page.getByRole("region", { name: "Before you close up" }).getByRole("button");
  await expect(first.first()).toContainText("a comeback for it would cost more");
  const named = (await first.first().locator("strong").textContent()) ?? "";
  await first.first().click();
  await expect(page.getByRole("article", { name: named })).toBeVisible();
});
