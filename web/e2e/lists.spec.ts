import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { nameFor, open } from "./yard";

/** The file that is given to the field. */
const file = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });

async function lists(page: Page) {
  await open(page);
  await page.getByRole("link", { name: "Bring a list in" }).click();
  await expect(page.getByRole("heading", { name: "Bring a list in" })).toBeVisible();
}

test("a yard's list is looked at, mended, brought in and taken back as one", async ({ page }, info) => {
  const [one, two] = [nameFor(info, "Ormsgill"), nameFor(info, "Quenby")];
  await lists(page);
  const text = `Boat;Mooring;Engine;Power (hp);Hours;Cooling\n${one};Pontoon C;Port;65;1.250;closed\n${two};;Main;30;;steam\n`;
  await page.getByLabel("The list's file").setInputFiles(file("boats.csv", text));
  const what = page.getByRole("region", { name: "What it comes to" });
  await expect(what.getByText("Fuel: say it in a column, or once for the whole list: diesel or petrol.")).toHaveCount(
    1,
  );
  await expect(what.getByText('Cooling: "steam" is not known here', { exact: false })).toBeVisible();

  // said once for all of it, and the day on which the meters were read
  const usual = page.getByRole("group", { name: "Where the list says nothing" });
  await usual.getByLabel("Fuel").click();
  await page.getByRole("option", { name: "diesel" }).click();
  await expect(what.getByText("say on which day the meter was read", { exact: false })).toBeVisible();
  await usual.getByLabel("Meter read on").fill("2026-05-04");
  await expect(what.getByText("1250 h on the meter on 4 May 2026")).toBeVisible();
  await expect(what.getByText(/48.5 kW/)).toBeVisible();

  const bring = what.getByRole("button", { name: /Bring it in/ });
  await expect(bring).toBeDisabled();
  await what.getByRole("checkbox", { name: "Leave out the row that cannot be taken" }).check();
  await bring.click();
  const brought = page.getByRole("region", { name: "Brought in" });
  await expect(brought.getByText("Craft and engines: 1 craft, 1 engine.", { exact: false }).first()).toBeVisible();

  await page.getByRole("link", { name: "← Yard" }).click();
  await expect(page.getByRole("region", { name: one })).toContainText("Port");
  await expect(page.getByRole("region", { name: two })).toHaveCount(0);

  // the same again: all of it is on record
  await page.getByRole("link", { name: "Bring a list in" }).click();
  await page.getByLabel("The list's file").setInputFiles(file("boats.csv", `Boat\n${one}\n`));
  await expect(what).toContainText("Nothing new; on record already and left as it stands: 1 row");
  await page.getByRole("region", { name: "Brought in" }).getByRole("button", { name: "Take back" }).first().click();
  await page.getByRole("dialog").getByRole("button", { name: "Take back" }).click();
  await expect(brought.getByText("Taken back", { exact: false }).first()).toBeVisible();
  await page.getByRole("link", { name: "← Yard" }).click();
  await expect(page.getByRole("region", { name: "Lissamar" })).toBeVisible();
  await expect(page.getByRole("region", { name: one })).toHaveCount(0);
});

test("what is no list is refused in words, and what a column holds can be said", async ({ page }) => {
  await lists(page);
  await page.getByLabel("The list's file").setInputFiles({
    name: "photo.png",
    mimeType: "image/png",
    buffer: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0]),
  });
  await expect(page.getByRole("alert")).toContainText("neither a spreadsheet nor a table of text");
  await page.getByLabel("The list's file").setInputFiles(file("parts.csv", "Thing,Number\nImpeller six blades,Q-77\n"));
  await page.getByRole("button", { name: "Parts", exact: true }).click();
  await expect(page.getByRole("alert")).toContainText("say which column holds this: Part");
  await page.getByRole("combobox", { name: "It is" }).first().click();
  await page.getByRole("option", { name: "Part", exact: true }).click();
  await expect(page.getByText("Impeller six blades, Q-77")).toBeVisible();
});
