import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { engineOf, nameFor, part, startJob } from "./yard";

const step = (page: Page, name: string) =>
  page.getByRole("navigation", { name: "Steps of the work" }).getByRole("button", { name, exact: true }).click();
const tap = (page: Page, name: string | RegExp) => page.getByRole("button", { name, exact: true }).click();

/** A picture that a camera could have taken. */
const picture = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==",
  "base64",
);

test("an impeller change with a blade unaccounted for, from seacock shut to started; nothing is let through before", async ({
  page,
  context,
}, info) => {
  const craft = nameFor(info, "Hands");
  await engineOf(page, craft);
  await startJob(page, craft, "No water at the outlet");
  const job = page.url();
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await tap(page, "Seacock shut");
  const banner = page.getByRole("note", { name: "State of the engine" });
  await expect(banner).toContainText("SEACOCK SHUT");
  await step(page, "Off");
  await tap(page, "Impeller change");
  await tap(page, "Flooding: seen to");
  await tap(page, "Cover screws: 6 off");
  for (const item of ["Cover plate", "Cover gasket or O-ring", "Impeller", "Key"]) await tap(page, `${item}: off`);
  const still = page.getByRole("status", { name: "Still off" });
  await expect(still).toContainText("Still off: 9 parts, 1 seal");
  // how the cover sat, with a picture
  await tap(page, "Cover plate");
  await page.getByLabel("How it sat").fill("Cam mark at 8 o'clock");
  await page.getByLabel("Take a picture").setInputFiles({ name: "cover.png", mimeType: "image/png", buffer: picture });
  await expect(page.getByRole("img", { name: "Cam mark at 8 o'clock" })).toBeVisible();
  await tap(page, "Save that");

  // another device counts along
  const other = await context.newPage();
  await other.goto(`${job}/teardown`);
  await expect(other.getByRole("status", { name: "Still off" })).toContainText("9 parts, 1 seal");
  await step(other, "Off");
  await expect(other.getByRole("button", { name: "Cover screws: +1 off" })).toBeDisabled(); // a seventh there is not
  await tap(other, "Cover screws: one less off");
  await expect(still).toContainText("8 parts", { timeout: 2000 });
  await tap(page, "Cover screws: +1 off");
  await expect(other.getByRole("status", { name: "Still off" })).toContainText("9 parts", { timeout: 2000 });
  await other.close();

  // the bench: one blade gone, one half
  await step(page, "Bench");
  const wheel = page.getByRole("region", { name: "Impeller", exact: true });
  await wheel.getByRole("button", { name: /^Blade 2:/ }).click();
  await wheel.getByRole("button", { name: "gone", exact: true }).click();
  await wheel.getByRole("button", { name: "half torn off" }).click(); // it goes on to the next blade
  await wheel.getByRole("button", { name: "Save the impeller" }).click();
  await expect(wheel).toContainText("Fit a new one, and hunt for what is missing");
  const pieces = page.getByRole("region", { name: "Pieces" });
  await expect(pieces).toContainText("1.50 missing, 0.00 found: 1.50 of a blade unaccounted for");

  // neither started nor closed
  await step(page, "Start");
  await expect(page.getByRole("status").filter({ hasText: "Not ready" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Engine started" })).toBeDisabled();
  await page.goto(job);
  await expect(banner).toContainText("SEACOCK SHUT");
  await part(page, "Next");
  await page
    .getByRole("button", { name: /Close the job/ })
    .first()
    .click();
  const close = page.getByRole("dialog");
  await expect(close).toContainText("1.50 of a blade unaccounted for");
  await close.getByLabel("Note for the engine's record").fill("Left as it is");
  await close.getByRole("button", { name: "Not all" }).click();
  await expect(close.getByRole("button", { name: "Close the job" })).toBeDisabled();
  await close.getByRole("button", { name: "Go on looking" }).click();

  // the rubber is found, and everything goes back
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Bench");
  await pieces.getByRole("button", { name: "Searched, nothing: Raw-water pump" }).click();
  await pieces.getByRole("button", { name: "Found a piece: Raw-water filter" }).click();
  await pieces.getByRole("button", { name: "a whole blade" }).click();
  await expect(pieces).toContainText("0.50 of a blade unaccounted for");
  await pieces.getByRole("button", { name: "Found a piece: Raw-water filter" }).click();
  await pieces.getByRole("button", { name: "half", exact: true }).click();
  await expect(pieces).toContainText("all accounted for");
  await step(page, "On");
  const off = page.getByRole("region", { name: "Still off" });
  await expect(off).toContainText("Cam mark at 8 o'clock");
  await tap(page, "Key: the old one back");
  await tap(page, "Impeller: new on");
  await tap(page, "Cover gasket or O-ring: reuse");
  await page.getByLabel("Why the old seal goes back").fill("Moulded, sound, no new one aboard");
  await tap(page, "Reuse it");
  await tap(page, "Cover plate: the old one back");
  await tap(page, "Cover screws: the old one back");
  await expect(still).toContainText("Everything is back");
  const screws = page.getByRole("region", { name: "Tighten: Cover screws" });
  await expect(screws.getByRole("img")).toHaveAccessibleName("In this order: 1, 4, 2, 5, 3, 6");
  for (const pass of ["snug", "half", "full"]) {
    await expect(screws).toContainText(pass);
    await screws.getByRole("button", { name: "Pass done" }).click();
  }
  await step(page, "On"); // the last pass led on to the start
  await expect(screws).toContainText("All passes done");
  await tap(page, "Number and price: Impeller");
  await tap(page, "Put it down as used");
  await expect(page.getByRole("region", { name: "Parts used" })).toContainText("1 × Impeller");

  // every condition, one touch each
  await step(page, "Start");
  const list = page.getByRole("region", { name: "Before the start" });
  const touches = list.getByRole("button", { name: /^(Confirm|Seacock open): / });
  await touches.nth(4).waitFor(); // the list is asked for first
  const names = await touches.evaluateAll((all) => all.map((b) => b.getAttribute("aria-label") ?? ""));
  expect(names.length).toBeGreaterThan(4);
  for (const name of names) await list.getByRole("button", { name, exact: true }).click();
  await expect(touches).toHaveCount(0);
  await expect(list.getByRole("status")).toContainText("Ready to start");
  await expect(banner).toHaveCount(0);
  await tap(page, "Engine started");
  await expect(page.getByRole("button", { name: "The priming clock" })).toBeVisible(); // without ticking again
  await page.getByRole("link", { name: /^← / }).click();
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Start");
  await expect(list).toContainText("Last started");
  await expect(list.getByRole("status")).toContainText("Not ready"); // the next start is looked at afresh
  // passing over takes words
  await page.getByRole("button", { name: /^Pass over: People clear/ }).click();
  await page.getByLabel("Started all the same, because").fill("Alone aboard");
  await page.getByRole("button", { name: "Pass over", exact: true }).click();
  await expect(list).toContainText("Passed over: Alone aboard");
  // the diagnosis heard it
  const id = job.split("/").pop() ?? "";
  const kept = (await (await page.request.get(`/api/v1/jobs/${id}`)).json()) as {
    findings: { id: string; q: number }[];
  };
  expect(kept.findings.find((f) => f.id === "blades-missing")?.q).toBe(1);
});

test("tasks and methods: a task copied and changed, a school chosen, and both stand in a job", async ({
  page,
}, info) => {
  const craft = nameFor(info, "Book");
  await engineOf(page, craft);
  await page.goto("/");
  await page.getByRole("link", { name: "Tasks and methods" }).click();
  await page.getByRole("button", { name: "Copy: Thermostat" }).click();
  const edit = page.getByRole("region", { name: "Change a task" });
  await edit.getByLabel("Task", { exact: true }).fill(`Thermostat, ${craft}`);
  await edit.getByRole("button", { name: "Another item" }).click();
  await edit.getByLabel("What comes off, 6").fill("Heat shield");
  await edit.getByRole("button", { name: "Save the task" }).click();
  await expect(page.getByRole("region", { name: "Tasks" })).toContainText(`Thermostat, ${craft}`);
  await page.goto("/");
  await startJob(page, craft, "Runs cool");
  await page.getByRole("link", { name: "Repair", exact: true }).click();
  await step(page, "Off");
  await page.getByRole("button", { name: `Thermostat, ${craft}` }).click();
  await expect(page.getByRole("region", { name: `Thermostat, ${craft}` })).toContainText("Heat shield");
  await page.goto("/methods");
  await page.getByRole("button", { name: `Give back: Thermostat, ${craft}` }).click();
  await expect(page.getByRole("region", { name: "Tasks" })).not.toContainText(craft);
});
