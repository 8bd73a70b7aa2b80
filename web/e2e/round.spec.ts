import { expect, test } from "@playwright/test";
import { engineOf, part, startJob } from "./yard";

test("a round of readings is taken, judged beside what it should be, and moves the suspects", async ({
  page,
}, info) => {
  const craft = `Round ${info.project.name}`;
  await engineOf(page, craft);
  await startJob(page, craft, "Hot when pushed");
  await part(page, "Log");
  await page.getByRole("link", { name: "Take a round" }).click();
  const read = page.getByRole("region", { name: "What was read" });
  await expect(read).toContainText("With speed and sea temperature");
  await page.getByLabel("Speed").fill("9000");
  await page.getByLabel("Sea").fill("16");
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
  await page.getByRole("button", { name: "Keep the round" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "Round kept" })).toBeVisible();
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
