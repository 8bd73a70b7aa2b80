import { expect, test } from "./own";
import {
  answers,
  craftOf,
  engineByHand,
  engineOf,
  isPhone,
  jobStep,
  nameFor,
  open,
  openJob,
  part,
  startJob,
} from "./yard";

test("a complaint is traced to its cause and the job closed", async ({ page }, info) => {
  const craft = nameFor(info, "Weedy");
  await engineByHand(page, craft);
  await startJob(page, craft, "Hot past the bar");
  await page.getByRole("button", { name: "Weak water at the outlet" }).click();
  await page.getByRole("button", { name: "Hot under load only" }).click();
  await page.getByRole("button", { name: "Weed, jellyfish or plastic about: Yes" }).click();
  await page.getByRole("button", { name: "What to look at next" }).click();

  const check = page.getByRole("article", { name: "Look into the strainer" });
  await expect(check).toContainText("Seacock shut and tagged at the key");
  await expect(check).toContainText("strainer clogged");
  await check.getByRole("button", { name: "It took: more" }).click();
  const outcome = answers(page);
  await outcome.getByRole("button", { name: "Basket: Basket choked" }).click();
  await outcome.getByRole("button", { name: "Save: Basket choked" }).click();

  const found = page.getByRole("status", { name: "Found" });
  await expect(found).toContainText("Found: Strainer clogged");
  await expect(page.getByLabel("Minutes so far")).toHaveText(/^5.min$/);
  await found.getByRole("button", { name: /close the job/i }).click();
  const end = page.getByRole("dialog");
  await expect(end.getByRole("button", { name: "Strainer clogged (found)" })).toHaveAttribute("aria-pressed", "true");
  await end.getByRole("button", { name: "Yes, all of it" }).click();
  await end.getByLabel("Note for the engine's record").fill("A bucket of weed");
  await expect(end).toContainText("Strainer lid off: since");
  await expect(end.getByRole("button", { name: "Close the job" })).toBeDisabled();
  await end.getByRole("button", { name: "Strainer lid off: closed up again" }).click();
  await end.getByRole("button", { name: "Close the job" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "A bucket of weed" })).toContainText("explains everything");

  await page.getByRole("link", { name: `${craft}, Main` }).click();
  await expect(page.getByRole("region", { name: "Jobs" })).toContainText("Strainer clogged");
});

test("once something is found, whoever ran it is asked what was not told yet", async ({ page }, info) => {
  const craft = nameFor(info, "Asked");
  await engineOf(page, craft);
  await startJob(page, craft, "Hot");
  await page.getByRole("button", { name: "Hot under load only" }).click();
  await page.getByRole("button", { name: "Weak water at the outlet" }).click();
  await part(page, "Next");
  await expect(page.getByRole("article").first()).not.toHaveAccessibleName(/^Ask/);
  await page.getByRole("button", { name: /Look into the strainer/ }).click();
  await answers(page).getByRole("button", { name: "Basket: Basket choked" }).click();
  await answers(page).getByRole("button", { name: "Save: Basket choked" }).click();
  await expect(page.getByRole("status", { name: "Found" })).toContainText("Strainer clogged");

  const ask = page.getByRole("article", { name: /^Ask/ });
  await expect(ask).toContainText("Next: a question");
  await expect(ask).toContainText("Proves nothing by itself, but tells soonest whether anything else is wrong");
  const asked = (await ask.getAttribute("aria-label")) ?? "";
  const told = page.getByRole("group", { name: "What were you told?" });
  await expect(told.getByRole("button", { name: "Nobody to ask" })).toBeVisible();
  await told.getByRole("button", { name: /none of these$/ }).click();
  await expect(page.getByRole("article", { name: asked })).toHaveCount(0);
  await part(page, "Log");
  await expect(page.getByRole("region", { name: "Log" })).toContainText(asked);
  await part(page, "Complaint");
  // what was told first stands, whatever was asked since
  await expect(page.getByRole("button", { name: "Weak water at the outlet" })).toHaveAttribute("aria-pressed", "true");
  await expect(page.getByRole("button", { name: "Hot under load only" })).toHaveAttribute("aria-pressed", "true");
});

test("a wrong tap is taken back and the ranking is as before", async ({ page }, info) => {
  const craft = nameFor(info, "Wrong");
  await engineOf(page, craft);
  await startJob(page, craft, "Hot");
  await page.getByRole("button", { name: "Weak water at the outlet" }).click();
  await part(page, "Next");
  const next = page.getByRole("article", { name: "Look at the seacock's handle" }); // weak water is answered
  await expect(next).toBeVisible();
  await part(page, "Complaint");
  await page.getByRole("button", { name: "Oil milky: Yes" }).click();
  await expect(page.getByText("Oil milky: yes")).toBeVisible();
  await page.getByRole("button", { name: "Take back" }).click();
  await expect(page.getByRole("button", { name: "Oil milky: Yes" })).toHaveAttribute("aria-pressed", "false");
  await part(page, "Next");
  await expect(next).toBeVisible();
  await part(page, "Log");
  await expect(page.getByRole("region", { name: "Log" })).toContainText("Taken back.");
});

test("a reload in the middle loses nothing", async ({ page }, info) => {
  const craft = nameFor(info, "Reload");
  await engineOf(page, craft);
  await startJob(page, craft, "Hot");
  await page.getByRole("button", { name: "No water at the outlet" }).click();
  await page.getByRole("button", { name: "Steam at the outlet: Yes" }).click();
  await page.reload(); // at once, without waiting for an answer
  await part(page, "Complaint");
  await expect(page.getByRole("button", { name: "No water at the outlet" })).toHaveAttribute("aria-pressed", "true");
  await expect(page.getByRole("button", { name: "Steam at the outlet: Yes" })).toHaveAttribute("aria-pressed", "true");
});

test("taps made while the link is down are kept on the device and sent", async ({ page, context }, info) => {
  const craft = nameFor(info, "Lost");
  await engineOf(page, craft);
  await startJob(page, craft, "Hot");
  await context.setOffline(true);
  await page.getByRole("button", { name: "Weak water at the outlet" }).click();
  await page.getByRole("button", { name: "Alarm sounded: Yes" }).click();
  await expect(page.getByRole("status", { name: "No link" })).toContainText("2 things wait");
  await expect(page.getByRole("button", { name: "Alarm sounded: Yes" })).toHaveAttribute("aria-pressed", "true");
  await context.setOffline(false);
  await expect(page.getByRole("status", { name: "No link" })).toBeHidden();
  await page.reload();
  await part(page, "Complaint");
  await expect(page.getByRole("button", { name: "Alarm sounded: Yes" })).toHaveAttribute("aria-pressed", "true");
});

test("another device's tap shows within moments", async ({ page, context }, info) => {
  const craft = nameFor(info, "Two");
  await engineOf(page, craft);
  await startJob(page, craft, "Hot");
  const other = await context.newPage();
  await open(other, page.url());
  await part(other, "Complaint");
  await other.getByRole("button", { name: "Runs too cool" }).click();
  await expect(page.getByRole("button", { name: "Runs too cool" })).toHaveAttribute("aria-pressed", "true");
});

test("the demo's half-done trace goes on to a cause by way of the water", async ({ page }) => {
  await open(page);
  await page
    .getByRole("region", { name: "Lissamar" })
    .getByRole("link", { name: /Found: impeller vanes missing/ })
    .click();
  await expect(page.getByRole("heading", { name: "Strip and rebuild" })).toBeVisible(); // the repair is what is next
  await jobStep(page, "Find");
  await expect(page.getByRole("status", { name: "Found" })).toContainText("Not enough: look on"); // by its own model
  if (isPhone(page)) await part(page, "Water");
  const water = page.getByRole("navigation", { name: /The water/ });
  await expect(water.getByRole("button", { name: /Raw-water pump found; open/ })).toBeVisible();
  await water.getByRole("button", { name: /Engine-oil cooler suspect/ }).click();
  const look = page.getByRole("article", { name: "Look at the first cooler's inlet face" });
  await expect(look).toContainText("Flooding.");
  await expect(look).toContainText("Cooler hose off");
});

test("who is asked for once, before the first thing is noted", async ({ page }, info) => {
  const job = crypto.randomUUID();
  const engine_id = await craftOf(page, nameFor(info, "Nameless"));
  await page.request.put(`/api/v1/jobs/${job}`, {
    data: { entry_id: crypto.randomUUID(), by: "Kit Venn", engine_id, words: "Hot" },
  });
  await page.goto("/");
  await openJob(page, nameFor(info, "Nameless"));
  await jobStep(page, "Find");
  await page.getByRole("button", { name: "Likeliest first" }).click();
  await page.getByRole("dialog").getByLabel("Name").fill("Rowan Tarn");
  await page.getByRole("button", { name: "That is me" }).click();
  await page.getByRole("button", { name: "Likeliest first" }).click();
  await expect(page.getByText("The sure look at:").first()).toBeVisible();
  await page.getByRole("button", { name: "Quickest" }).click();
});

test("orders of search show their minutes, contradictions and what is not offered are told", async ({ page }, info) => {
  const craft = nameFor(info, "Orders");
  await engineOf(page, craft);
  await startJob(page, craft, "Hot");
  await page.getByRole("button", { name: "Runs too cool" }).click();
  await page.getByRole("button", { name: "Coolant boiled over: Yes" }).click();
  await page.getByRole("button", { name: "What to look at next" }).click();
  await expect(page.getByRole("status", { name: "Contradiction" })).toContainText("These two do not go together");
  const orders = page.getByRole("group", { name: /Order of search/ });
  for (const name of ["Quickest", "In flow order", "Likeliest first"])
    await expect(orders.getByRole("button", { name: new RegExp(`${name}\\s+\\d+.min`) })).toBeVisible();
  await page.getByRole("button", { name: /^Not offered, and why/ }).click();
  await expect(page.getByRole("region", { name: "Not offered" })).toContainText("This engine has no place for it.");
  const check = await page.getByRole("article").getAttribute("aria-label");
  await page.getByRole("button", { name: "Cannot get at it" }).click();
  await expect(page.getByRole("article", { name: check ?? "", exact: true })).toBeHidden();
});

test("what was found leads to what it brings with it, and the record tells the history", async ({ page }) => {
  await open(page);
  await page
    .getByRole("region", { name: "Lissamar" })
    .getByRole("link", { name: /Found: impeller vanes missing/ })
    .click();
  await expect(page.getByRole("heading", { name: "Strip and rebuild" })).toBeVisible(); // the repair is what is next
  await jobStep(page, "Find");
  await page
    .getByRole("region", { name: "It brings others with it" })
    .getByRole("button", { name: /Exchanger tubes blocked/ })
    .click();
  await expect(page.getByRole("article", { name: "Look into the exchanger" })).toContainText("exchanger tubes blocked");
  await part(page, "Complaint");
  await expect(page.getByText("From the record: impeller fitted 10 Feb 2025")).toBeVisible();
});

test("the sister engine is one touch away", async ({ page }) => {
  await open(page);
  await page
    .getByRole("region", { name: "Fathom Ewe" })
    .getByRole("link", { name: /Runs too cool/ })
    .click();
  await page.getByRole("link", { name: /^Port/ }).click();
  await expect(page.getByRole("heading", { name: "Fathom Ewe, Port" })).toBeVisible();
});

test("the handbook is found by place and by word", async ({ page }) => {
  await open(page);
  await page.getByRole("link", { name: "Handbook" }).click();
  await page.getByRole("navigation", { name: "Stations" }).getByRole("button", { name: "Thermostat" }).click();
  await page.getByRole("button", { name: /^Thermostat in the pot/ }).click();
  await expect(page.getByText("Hang it clear of the bottom", { exact: false })).toBeVisible();
  await page.getByLabel("What do you look for?").fill("weep hole");
  await page.getByRole("button", { name: /^Drip at a pump's weep hole/ }).click();
  await expect(page.getByRole("region", { name: "Signs" })).toContainText("Circulation pump seal leaking mostly");
  await page.getByLabel("What do you look for?").fill("pressure-test the exchanger");
  await page.getByRole("button", { name: /^Pressure-test the exchanger/ }).click();
  await expect(page.getByText(/^Test pressure: .* 100 to 150.kPa is usual\.$/)).toBeVisible();
  await page.getByLabel("What do you look for?").fill("zebra");
  await expect(page.getByText("Nothing found.", { exact: false })).toBeVisible();
});

test("a check is answered as well where its drawings cannot be had", async ({ page }) => {
  await page.route("**/assets/Drawing-*", (route) => route.abort());
  await open(page);
  await page
    .getByRole("region", { name: "Brackling" })
    .getByRole("link", { name: /May 2026/ })
    .click();
  await jobStep(page, "Find");
  await expect(answers(page).getByRole("button", { name: /Basket choked/ })).toBeVisible();
  await expect(answers(page).locator("svg")).toHaveCount(0);
});
