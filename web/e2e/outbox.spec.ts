import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { answers, craftOf, jobOf, jobStep, nameFor, open, openJob, part } from "./yard";

interface Saved {
  findings: { id: string }[];
  log: object[];
}

/** Opens the job in a page of its own, at the symptoms. */
async function atSymptoms(page: Page, job: string) {
  await open(page, "/");
  await page.evaluate((at) => history.pushState({}, "", at), `/jobs/${job}`);
  await page.reload();
  await part(page, "Complaint");
}

test("two tabs while the program is down: every tap of both is on record after it comes back", async ({
  page,
}, info) => {
  const job = await jobOf(page, await craftOf(page, nameFor(info, "Tabs")), "Hot");
  await atSymptoms(page, job);
  const other = await page.context().newPage();
  await atSymptoms(other, job);
  await page.context().route("**/api/**", (r) => r.abort());
  await page.getByRole("button", { name: "Weak water at the outlet" }).click();
  await other.getByRole("button", { name: "Alarm sounded: Yes" }).click();
  await page.getByRole("button", { name: "Coolant boiled over: Yes" }).click();
  await other.getByRole("button", { name: "Steam at the outlet: Yes" }).click();
  for (const tab of [page, other])
    await expect(tab.getByRole("status", { name: "No link" })).toContainText("4 things wait");
  await page.context().unroute("**/api/**");
  for (const tab of [page, other]) await expect(tab.getByRole("status", { name: "No link" })).toBeHidden();
  const saved = async () => (await (await page.request.get(`/api/v1/jobs/${job}`)).json()) as Saved;
  await expect.poll(async () => (await saved()).log.length, "each once: opened, and four taps").toBe(5);
  expect((await saved()).findings.map((f) => f.id).sort()).toEqual([
    "alarm-sounded",
    "coolant-boiled-over",
    "steam-at-outlet",
    "weak-water-at-outlet",
  ]);
});

test("a page asked for before a tap and answered after it does not take the tap back", async ({ page }, info) => {
  const job = await jobOf(page, await craftOf(page, nameFor(info, "Late")), "Hot");
  await atSymptoms(page, job);
  const pageOfJob = `**/api/v1/jobs/${job}`;
  let late: (() => Promise<void>) | undefined;
  await page.route(pageOfJob, async (r) => {
    if (late) return r.continue();
    const response = await r.fetch();
    late = () => r.fulfill({ response }).catch(() => undefined); // nobody waits for it any more
  });
  // another device notes something, and the page is asked for anew
  const noted = await page.request.put(`/api/v1/jobs/${job}/entries/${crypto.randomUUID()}`, {
    data: { kind: "note", words: "Owner called", by: "Wyn Abery", tapped_at: new Date().toISOString() },
  });
  expect(noted.ok(), await noted.text()).toBe(true);
  await expect.poll(() => late !== undefined).toBe(true);
  const tap = page.getByRole("button", { name: "Alarm sounded: Yes" });
  const saved = page.waitForResponse((r) => r.request().method() === "PUT" && r.url().includes("/entries/"));
  await tap.click();
  await saved;
  await expect(tap).toHaveAttribute("aria-pressed", "true");
  await late?.();
  await part(page, "Log"); // drawn after whatever came
  await expect(page.getByText("Owner called")).toBeVisible();
  await part(page, "Complaint");
  await expect(tap).toHaveAttribute("aria-pressed", "true");
  await page.unroute(pageOfJob);
});

test("what the program refuses for ever steps aside, can be seen, and holds nothing up", async ({ page }, info) => {
  const job = await jobOf(page, await craftOf(page, nameFor(info, "Refused")), "Hot");
  await atSymptoms(page, job);
  let refused = 0;
  await page.route("**/entries/**", async (r) => {
    if (r.request().postData()?.includes("weak-water-at-outlet") && ++refused > 0)
      return r.fulfill({
        status: 409,
        json: { title: "Conflict", status: 409, detail: "the job was closed meanwhile" },
      });
    return r.continue();
  });
  await page.getByRole("button", { name: "Weak water at the outlet" }).click();
  await page.getByRole("button", { name: "Alarm sounded: Yes" }).click();
  const bar = page.getByRole("status").filter({ hasText: "Not saved" });
  await expect(bar).toBeVisible();
  await expect(page.getByRole("button", { name: "Alarm sounded: Yes" })).toHaveAttribute("aria-pressed", "true");
  // without a link as well, both lines stand at the top, one under the other, wherever the page is scrolled to
  await page.context().setOffline(true);
  const noLink = page.getByRole("status", { name: "No link" });
  await expect(noLink).toBeVisible();
  await page.evaluate(() => window.scrollTo(0, document.documentElement.scrollHeight));
  await expect(bar).toBeInViewport();
  const [above, below] = [await noLink.boundingBox(), await bar.boundingBox()];
  expect(above?.y).toBeGreaterThanOrEqual(0);
  expect((above?.y ?? 0) + (above?.height ?? 0)).toBeLessThanOrEqual(below?.y ?? 0);
  await page.context().setOffline(false);
  await expect(noLink).toHaveCount(0);
  await bar.getByRole("button", { name: "Show" }).click();
  const list = page.getByRole("dialog", { name: "Not sent yet" });
  await expect(list).toContainText("the job was closed meanwhile");
  await list.getByRole("button", { name: "Send again" }).click();
  await expect.poll(() => refused).toBe(2);
  await list.getByRole("button", { name: "Drop" }).click();
  await expect(list).toContainText("Everything is saved.");
});

test("a storage that is full, refused or malformed leaves no blank page and loses no tap", async ({ page }, info) => {
  const job = await jobOf(page, await craftOf(page, nameFor(info, "Full")), "Hot");
  await page.addInitScript(() => {
    localStorage.setItem("hevrin.outbox", "{broken");
    localStorage.setItem("hevrin.units", "cubits");
    localStorage.setItem("hevrin.sum.bucket-flow", "[7]");
    Storage.prototype.setItem = () => {
      throw new DOMException("full", "QuotaExceededError");
    };
    IDBObjectStore.prototype.add = () => {
      throw new DOMException("full", "QuotaExceededError");
    };
  });
  await page.goto("/");
  await page.getByRole("button", { name: "Your name" }).click();
  await page.getByRole("dialog").getByLabel("Name").fill("Rowan Tarn");
  await page.getByRole("button", { name: "That is me" }).click();
  await expect(page.getByRole("button", { name: /Rowan Tarn/ })).toBeVisible();
  await page.getByRole("link", { name: "Calculators" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  await page.evaluate((at) => history.pushState({}, "", at), `/jobs/${job}`);
  await page.goBack();
  await page.goForward();
  await part(page, "Complaint");
  await page.getByRole("button", { name: "Alarm sounded: Yes" }).click();
  await expect
    .poll(
      async () => ((await (await page.request.get(`/api/v1/jobs/${job}`)).json()) as { findings: object[] }).findings,
    )
    .toHaveLength(1);
});

test("a screen that cannot be drawn says so and leaves ways on", async ({ page }) => {
  await page.route("**/api/v1/yard", (r) => r.fulfill({ json: { craft: [{ craft: null }] } }));
  await open(page);
  await expect(page.getByRole("heading", { name: "This screen cannot be shown" })).toBeVisible();
  await page.getByRole("link", { name: "Calculators" }).click();
  await expect(page.getByRole("link", { name: /How much raw water/ })).toBeVisible();
});

test("a page from before the program was renewed says so, and goes on with the newer one", async ({ page }, info) => {
  const engine = await craftOf(page, nameFor(info, "Renewed"));
  const job = await jobOf(page, engine, "Hot under load");
  await open(page);
  await openJob(page, nameFor(info, "Renewed"));
  await jobStep(page, "Find");
  await expect(page.getByRole("article").first()).toBeVisible();
  await page.route("**/assets/**", (r) => r.fulfill({ status: 404 })); // the old program's parts are gone with it
  await jobStep(page, "Repair");
  await expect(page.getByRole("alert")).toContainText("The program was renewed since this page was opened");
  await page.unroute("**/assets/**");
  await page.getByRole("button", { name: "Load again" }).click();
  await expect(page.getByRole("navigation", { name: "Steps of the work" })).toBeVisible();
  expect(page.url()).toContain(job);
});

test("what waits is sent, though the device's storage is emptied under the open page", async ({
  page,
  context,
}, info) => {
  const engine = await craftOf(page, nameFor(info, "Emptied"));
  const job = await jobOf(page, engine, "Hot under load");
  await open(page);
  await openJob(page, nameFor(info, "Emptied"));
  await jobStep(page, "Find");
  await expect(page.getByRole("article").first()).toBeVisible();
  await context.setOffline(true);
  await answers(page).getByRole("button", { name: "Cannot get at it" }).click();
  const noLink = page.getByRole("status", { name: "No link" });
  await expect(noLink).toContainText("1 thing waits");
  const device = await context.newCDPSession(page);
  await device.send("Storage.clearDataForOrigin", { origin: new URL(page.url()).origin, storageTypes: "all" });
  await expect(noLink).toContainText("1 thing waits");
  await answers(page).getByRole("button", { name: "Cannot get at it" }).click();
  await page.getByRole("dialog").getByLabel("Name").fill("Kit Venn"); // the device knows nobody any more
  await page.getByRole("button", { name: "That is me" }).click();
  await expect(noLink).toContainText("2 things wait");
  await context.setOffline(false);
  await expect(noLink).toHaveCount(0);
  const log = async () =>
    ((await (await page.request.get(`/api/v1/jobs/${job}`)).json()) as { log: { outcome?: string }[] }).log;
  await expect.poll(async () => (await log()).filter((l) => l.outcome === "skipped").length).toBe(2);
});
