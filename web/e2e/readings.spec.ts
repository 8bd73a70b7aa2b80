import { expect, test } from "./own";
import { answers, engineOf, nameFor, part, startJob } from "./yard";

test("a round of readings is taken, judged beside what it should be, and moves the suspects", async ({
  page,
}, info) => {
  const craft = nameFor(info, "Round");
  await engineOf(page, craft);
  await startJob(page, craft, "Hot when pushed");
  await part(page, "Log");
  await page.getByRole("link", { name: "Take a round" }).click();
  const read = page.getByRole("region", { name: "What was read" });
  await expect(read).toContainText("With speed and sea temperature");
  await page.getByLabel("Speed").fill("9000");
  await page.getByLabel("Sea", { exact: true }).fill("16");
  await expect(read.getByRole("alert")).toContainText("holds to 1.1 of the rated");
  await page.getByLabel("Speed").fill("2800");
  await expect(read).toContainText("should be");
  await page.getByLabel("Thermostat, coolant").fill("187 F");
  await page.getByLabel("Heat exchanger, raw water").fill("95");
  await expect(page.getByText("are the two swapped?")).toBeVisible();
  await page.getByLabel("Heat exchanger, raw water").fill("38");
  await expect(page.getByText("are the two swapped?")).toBeHidden();
  await page.getByLabel("Raw water, bucket and watch").fill("28");
  await expect(read).toContainText("too low");
  const say = page.getByRole("region", { name: "What the readings say" });
  await expect(say).toContainText("They show too little raw water.");
  await page.reload(); // what was typed is still there
  await expect(page.getByLabel("Raw water, bucket and watch")).toHaveValue("28");
  await page.getByLabel("A word with it").fill("Off the quay");
  await page.getByRole("button", { name: "Save the round" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "Round saved" })).toBeVisible();
  await part(page, "Log");
  const kept = page.getByRole("region", { name: "Readings", exact: true });
  await expect(kept).toContainText("2800 rev/min, sea 16.0 °C. Off the quay.");
  await expect(kept.getByRole("img", { name: /Heat exchanger: found 38.0/ })).toBeVisible();
  await expect(kept).toContainText("They show too little raw water.");
  const id = page.url().split("/").pop() ?? "";
  const job = (await (await page.request.get(`/api/v1/jobs/${id}`)).json()) as {
    findings: { id: string; q: number; from_record?: string }[];
  };
  expect(job.findings.find((f) => f.id === "raw-flow-low")?.q).toBeGreaterThan(0.9);
  await page.getByRole("button", { name: /Take back: A round of/ }).click();
  await expect(kept).toContainText("None yet.");
});

test("a healthy round becomes its baseline, a surface reading is set right, and what would overheat it is slid", async ({
  page,
}, info) => {
  const craft = nameFor(info, "Standard");
  await engineOf(page, craft);
  // set-up: the usual figures with their sources, one of them changed
  await page.getByRole("region", { name: craft }).getByRole("link", { name: /^Main/ }).click();
  await page.getByRole("button", { name: "Facts", exact: true }).click();
  await expect(page.getByRole("region", { name: "Expected values" })).toContainText("usual for its type");
  await page.getByRole("button", { name: "Change facts" }).click();
  const form = page.getByRole("dialog");
  await form.getByRole("button", { name: /^More of its cooling/ }).click();
  await form.getByRole("button", { name: "Enter my own figures" }).click();
  await form.getByLabel("Raw water at rated speed").fill("9000000");
  await expect(form.getByRole("alert")).toContainText("look at the figure and its unit again");
  await expect(form.getByRole("button", { name: "Save" })).toBeDisabled();
  await form.getByLabel("Raw water at rated speed").fill("62");
  await expect(form.getByRole("alert")).toBeHidden();
  await form.getByRole("button", { name: "By its tubes" }).click();
  for (const [label, v] of [
    ["Tubes in all", "72"],
    ["Passes", "2"],
    ["Bore, mm", "6.5"],
    ["Outside, mm", "8"],
    ["Length, mm", "330"],
  ] as const)
    await form.getByLabel(label).fill(v);
  await expect(form).toContainText("from the stack: 72 tubes of 8 mm");
  await form.getByRole("button", { name: "Gear", exact: true }).click();
  await form.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("raw-water pump driven by gear")).toBeVisible();
  const should = page.getByRole("region", { name: "Expected values" });
  await expect(should).toContainText("as you gave it");
  await expect(should).toContainText("62.0 L/min");

  await page.goto("/");
  await startJob(page, craft, "Yearly look");
  const job = page.url();
  await part(page, "Log");
  await page.getByRole("link", { name: "Take a round" }).click();
  await page.getByLabel("Speed").fill("2700");
  await page.getByLabel("Sea", { exact: true }).fill("16");
  const read = page.getByRole("region", { name: "What was read" });
  const place = (label: string) => read.getByLabel(label, { exact: true });
  await place("Thermostat, coolant").fill("86.5");
  await place("Delivery hoses, raw water").fill("25");
  await read.getByRole("button", { name: "Surface thermometer" }).click();
  await read.getByRole("button", { name: "rusted iron" }).click();
  await place("Exhaust elbow, raw water").fill("31");
  await expect(read).toContainText(/rusted iron: truly 31\.\d/);
  await read.getByRole("button", { name: "bright metal" }).click();
  await expect(read.getByRole("alert")).toContainText("matt tape");
  await read.getByRole("button", { name: "Contact probe" }).click();
  await read.getByRole("button", { name: "With bucket and stopwatch" }).click();
  await read.getByRole("button", { name: "Start the stopwatch" }).click();
  await page.waitForTimeout(1200);
  await read.getByRole("button", { name: /Full: stop at/ }).click();
  await expect(read.getByRole("button", { name: "Take it" })).toBeVisible();
  await read.getByRole("button", { name: "Take it" }).click();
  await expect(place("Raw water, bucket and watch")).not.toHaveValue("");
  await place("Raw water, bucket and watch").fill("56");
  await expect(page.getByRole("region", { name: "What the readings say" })).toContainText("Nothing stands out");
  await page.getByRole("button", { name: "Save the round" }).click();
  await part(page, "Log");
  const kept = page.getByRole("region", { name: "Readings", exact: true });
  await kept.getByRole("button", { name: "Save as healthy baseline" }).click();
  await page.getByRole("button", { name: "Save the baseline" }).click();
  await expect(kept).toContainText("Compared with its own healthy baseline of");
  await kept.getByRole("link", { name: "Take a round" }).click();
  await page.getByRole("button", { name: /The same again: 2700 rev\/min/ }).click();
  await expect(page.getByLabel("Speed")).toHaveValue("2700");
  await expect(page.getByRole("region", { name: "What was read" })).toContainText("last 86.5");
  await page.goto(job);
  await part(page, "Log");
  await kept.getByRole("link", { name: "What would overheat it?" }).click();
  const left = page.getByRole("region", { name: "What is left" });
  await expect(page.getByRole("status").filter({ hasText: "below the alarm" })).toBeVisible();
  await expect(left).toContainText(/From losing the raw water to the alarm.*min/);
  await page.getByLabel("Put a fault on").click();
  await page.getByRole("option", { name: "Exchanger tubes scaled" }).click();
  await page.getByRole("slider", { name: "Exchanger tubes scaled" }).press("End");
  await expect(page.getByRole("status").filter({ hasText: "It boils" })).toBeVisible();
  await page.getByRole("button", { name: "Without: Exchanger tubes scaled" }).click();
  await page.getByRole("button", { name: "Out of gear" }).click();
  await expect(page.getByRole("status").filter({ hasText: "below the alarm" })).toBeVisible();
});

test("a check that is read off takes its figures on its own card, and is a round", async ({ page }, info) => {
  const craft = nameFor(info, "Read off");
  await engineOf(page, craft);
  await startJob(page, craft, "Hot when pushed");

  // read before it can have been warm it tells nothing: a round, and the check is still to be made
  await part(page, "Water");
  await page.getByRole("button", { name: /^Gauge and alarm/ }).click();
  const gauge = page.getByRole("article", { name: "Gauge against a surface thermometer" });
  await expect(gauge).toBeVisible();
  await page.getByRole("button", { name: "Type what was read" }).click();
  const early = gauge.getByRole("region", { name: "What was read" });
  await early.getByLabel("Speed").fill("800");
  await early.getByLabel("Sea", { exact: true }).fill("16");
  await early.getByLabel("Has run so, from cold").fill("4");
  await early.getByLabel("Gauge and alarm").fill("48");
  await gauge.getByRole("heading").first().click(); // the number pad goes
  await expect(gauge).toContainText("Not judged: it may have been warming up still.");
  await page.getByRole("button", { name: "Save this reading" }).click();
  await expect(gauge.getByRole("region", { name: "What was read" })).toHaveCount(0);
  await expect(gauge).toBeVisible();
  await part(page, "Log");
  await expect(page.getByRole("region", { name: "Readings", exact: true })).toContainText("800 rev/min, sea 16.0 °C");
  await expect(page.getByText(/^Gauge against a surface thermometer/)).toHaveCount(0);

  await part(page, "Water");
  await page.getByRole("button", { name: /^Outlet/ }).click();
  await page.getByRole("button", { name: /Bucket and watch/ }).click();
  const card = page.getByRole("article", { name: "Bucket and watch at the outlet" });
  await expect(card).toBeVisible();
  await page.getByRole("button", { name: "Type what was read" }).click();
  const read = card.getByRole("region", { name: "What was read" });
  await expect(page.getByRole("button", { name: "Save what was read" })).toBeDisabled();
  await read.getByLabel("Speed").fill("2000");
  await read.getByLabel("Sea", { exact: true }).fill("16");
  await read.getByLabel("Raw water, bucket and watch").fill("12");
  await expect(read).toContainText("too low");
  await expect(card.getByRole("region", { name: "What the readings say" })).toContainText("too little raw water");
  await page.reload(); // what was typed is still there
  await page.getByRole("button", { name: "Type what was read" }).click();
  await expect(read.getByLabel("Raw water, bucket and watch")).toHaveValue("12");
  await page.getByRole("button", { name: "Save this reading" }).click();
  await expect(card).toHaveCount(0); // it is made
  await part(page, "Log");
  await expect(page.getByText(/Bucket and watch at the outlet.*: a reading at 2000 rev\/min/)).toBeVisible();
  await expect(page.getByRole("region", { name: "Readings", exact: true })).toContainText("2000 rev/min, sea 16.0 °C");
  await page.getByRole("button", { name: /Take back: Bucket and watch/ }).click();
  await expect(page.getByRole("region", { name: "Readings", exact: true })).not.toContainText("2000 rev/min");
});

test("a reading judged at idle is told as of idle, and the same is still to be read under load", async ({
  page,
}, info) => {
  const craft = nameFor(info, "Idle");
  await engineOf(page, craft);
  await startJob(page, craft, "Steams, weak water");
  for (const told of ["Hot under load only", "Weak water at the outlet", "Steam at the outlet"])
    await page
      .getByRole("button", { name: new RegExp(`^${told}`) })
      .first()
      .click();
  await part(page, "Next");
  await page.getByRole("button", { name: /Temperatures at idle/ }).click();
  await answers(page).getByRole("button", { name: "No instrument: by judgement" }).click();
  const rise = page.getByRole("group", { name: /^Raw water warms too much/ });
  await expect(page.getByText(/If so: .*impeller vanes missing/i).first()).toBeVisible(); // a choked strainer hardly shows there
  await rise.getByRole("button", { name: /: No$/ }).click();
  await page.getByRole("button", { name: /^Save/ }).first().click();
  await expect(page.getByRole("alert").filter({ hasText: "Temperatures at idle" })).toBeVisible();
  await part(page, "Suspects");
  const suspects = page.getByRole("region", { name: "Suspects" });
  await suspects.getByRole("button", { name: /Impeller vanes missing/ }).click();
  await expect(suspects).toContainText("Raw water warms too much at idle: no");
  await part(page, "Next");
  await expect(page.getByRole("button", { name: /Temperatures at idle/ })).toHaveCount(0);

  await page.getByRole("link", { name: "Hevrin" }).click();
  await page.getByRole("link", { name: "Handbook" }).click();
  await page.getByLabel("What do you look for?").fill("raw water warms too much");
  await page.getByRole("button", { name: /^Raw water warms too much/ }).click();
  const table = page.getByRole("table").filter({ hasText: "Shows, by the engine model" });
  await expect(table).toContainText("under load");
  await expect(table.getByRole("row", { name: /^Strainer clogged hardly/ })).toBeVisible();
});
