import { expect, test } from "./own";
import { craftOf, jobOf, jobStep, nameFor, open, openJob } from "./yard";

test("a spring list is planned and ticked, and what it does is not due any more", async ({ page }, info) => {
  const engine = await craftOf(page, nameFor(info, "Springer"));
  await open(page, `/engines/${engine}`);
  const due = page.getByRole("region", { name: "Due" });
  await expect(due.getByRole("article", { name: "Change the impeller: not known" })).toBeVisible();
  await page.getByRole("button", { name: "Read the meter" }).click();
  await page.getByLabel("The meter shows, h").fill("1200");
  await page.getByRole("button", { name: "Put it down" }).click();
  await expect(page.getByRole("region", { name: "Hours" })).toContainText("1200 h");
  const sections = page.getByRole("navigation", { name: "The engine's record" });
  await sections.getByRole("button", { name: "Lay-up and spring" }).click();
  await page.getByRole("button", { name: /^Spring start/ }).click();
  const list = page.getByRole("region", { name: "Spring start" });
  await expect(list.getByRole("status")).toHaveText(/^0 of \d+ done$/);
  for (const step of ["Every drain shut", "Seacock worked", "New impeller in"])
    await list.getByRole("button", { name: new RegExp(`^Tick: ${step}`) }).click();
  await expect(list.getByRole("status")).toHaveText(/^3 of \d+ done$/);
  await page.reload();
  await sections.getByRole("button", { name: "Due, and jobs" }).click(); // the pane stood in the address
  await expect(due.getByRole("article", { name: "Change the impeller: later" })).toBeVisible();
  await expect(due.getByRole("article", { name: "Work the seacock: later" })).toBeVisible();

  // put off with a reason, and begun with its list
  const anode = due.getByRole("article", { name: /^Change the anode/ });
  await anode.getByRole("button", { name: /^Change the anode/ }).click();
  await anode.getByRole("button", { name: "It was done" }).click();
  await anode.getByLabel("On").fill("2024-03-01");
  await anode.getByRole("button", { name: "Put it down" }).click();
  await expect(due.getByRole("article", { name: "Change the anode: overdue" })).toBeVisible();
  await due
    .getByRole("article", { name: /^Change the anode/ })
    .getByRole("button", { name: "Postpone" })
    .click();
  await page.getByLabel("Because").fill("at the haul-out");
  await page.getByRole("button", { name: "Put it off" }).click();
  await expect(page.getByText(/Postponed to .* by Kit Venn: at the haul-out/)).toBeVisible();
  await due
    .getByRole("article", { name: /^Fit a new thermostat/ })
    .getByRole("button", { name: "Start the job" })
    .click();
  await expect(page).toHaveURL(/\/teardown$/);
  await expect(page.getByText("Thermostat housing").or(page.getByText("Housing gasket")).first()).toBeVisible();
});

test("a part from order to receipt, use and order again", async ({ page }, info) => {
  const craft = nameFor(info, "Partner");
  const engine = await craftOf(page, craft);
  const label = `Impeller for ${craft}`;
  // the engine's pump by its plate: what fits the pump fits it
  await open(page, `/engines/${engine}`);
  await page.getByRole("button", { name: "Change facts" }).click();
  await page.getByRole("combobox", { name: "Raw-water pump" }).fill(`RX 7 ${craft}`);
  await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  await expect(page.getByText(`raw-water pump RX 7 ${craft}`)).toBeVisible();
  await page.goto("/parts");
  await page.getByRole("button", { name: "Add a part" }).click();
  const form = page.getByRole("dialog");
  await form.getByLabel("What it is").fill(label);
  await form.getByLabel("Supplier's number").fill("LM-2051");
  await form.getByLabel("Where it lies").fill("Drawer 9");
  await form.getByLabel("The least to have").fill("1");
  await form.getByLabel("Used for").click();
  await page.getByRole("option", { name: "Impeller", exact: true }).click();
  await form.getByLabel("Outside, mm").fill("650");
  await form.getByLabel("Width, mm").fill("50,8");
  await form.getByLabel("Bore, mm").fill("16");
  await form.getByLabel("A raw-water pump, by its plate").fill(`rx7 ${craft}`);
  await form.getByRole("button", { name: "It fits: tried" }).click();
  await form.getByRole("button", { name: "Save" }).click();
  // a slipped digit is told, and nothing that was typed is lost
  await expect(page.getByText(/no impeller of a boat measures 650/)).toBeVisible();
  await form.getByLabel("Outside, mm").fill("65");
  await form.getByRole("button", { name: "Save" }).click();
  const row = page.getByRole("article", { name: label });
  await expect(row.getByText(`Tried on pump rx7 ${craft} (${craft}, Main)`)).toBeVisible();
  await expect(row.getByText("To order 1: 0 here, the least is 1.")).toBeVisible();

  // the number on record was superseded: the list leads to the new one
  await row.getByRole("button", { name: "Order", exact: true }).click();
  await expect(row.getByText("Superseded by LM-2052")).toBeVisible();
  await row.getByRole("button", { name: "Look at LM-2052" }).click();
  await row.getByRole("button", { name: "Order LM-2052" }).click();
  await expect(row.getByText(/1 of LM-2052 on the way/)).toBeVisible();
  await row.getByRole("button", { name: "They are here" }).click();
  await expect(row.getByText(/on the way/)).toHaveCount(0);

  // taken in a job, it is counted down, and to be ordered again
  await jobOf(page, engine, "Impeller");
  await openJob(page, craft);
  await jobStep(page, "Repair");
  await page
    .getByRole("navigation", { name: "Steps of the work" })
    .getByRole("button", { name: "On", exact: true })
    .click();
  await page.getByRole("button", { name: `Take one: ${label}` }).click();
  await expect(page.getByRole("region", { name: "Parts used" }).getByText(`1 × ${label}`)).toBeVisible();
  await expect(page.getByText(`${label}: none left`)).toBeVisible();
  await page.goto("/parts");
  await expect(row.getByText("To order 1: 0 here, the least is 1.")).toBeVisible();
  await row.getByRole("button", { name: "It was the wrong one" }).click();
  await row.getByLabel("What was wrong with it").fill("drive was a spline");
  await row.getByRole("button", { name: "Note it" }).click();
  await row.getByRole("button", { name: "Order", exact: true }).click();
  await expect(row.getByText(/Ordered wrong before.*drive was a spline/)).toBeVisible();
});

test("a trouble that comes and goes ends on watch, and stands on the due list", async ({ page }, info) => {
  const engine = await craftOf(page, nameFor(info, "Watched"));
  await jobOf(page, engine, "Hot twice last month, never since");
  await open(page);
  await openJob(page, nameFor(info, "Watched"));
  await page.getByRole("button", { name: "Close the job" }).click();
  const end = page.getByRole("dialog", { name: "What was it?" });
  const causes = end.getByRole("group", { name: "The cause" }).getByRole("button");
  await causes.nth(0).click();
  await causes.nth(1).click();
  await end.getByRole("button", { name: "Not all" }).click();
  await end.getByRole("button", { name: "One of these: which is not known" }).click();
  await end.getByLabel("Note for the engine's record").fill("Hot twice, nothing found");
  await end.getByRole("button", { name: "It comes and goes: on watch" }).click();
  const hours = end.getByLabel("On watch for, running hours");
  await expect(hours).toHaveValue("25");
  await hours.fill("0.5");
  await expect(end.getByRole("button", { name: "Close the job" })).toBeDisabled();
  await hours.fill("40");
  await end.getByRole("button", { name: "Close the job" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "Hot twice" })).toContainText(
    / or .*On watch for 40 running hours/,
  );
  await page.getByRole("link", { name: `${nameFor(info, "Watched")}, Main` }).click();
  const due = page.getByRole("region", { name: "Due" });
  await expect(
    due.getByRole("article", { name: "On watch, did it come back? Hot twice, nothing found: later" }),
  ).toBeVisible();
});
