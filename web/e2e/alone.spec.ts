import type { Page } from "@playwright/test";
import { expect, test } from "./own";
import { demo } from "./simulator";
import { Hand, hotEngineToReport, picture } from "./walk";
import { answers, jobStep, startJob } from "./yard";

// The whole job where no link is: the program stopped and the network off, with nothing but the phone.

test.use({ serviceWorkers: "allow" });
test.skip(({ isMobile, viewport }) => !isMobile && (viewport?.width ?? 0) > 600, "it is the phone that loses its link");

/** Until the shell and the phone's own program lie on the device. */
async function installed(page: Page) {
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload(); // from now on by the service worker
  const lies = () => page.evaluate(async () => (await (await caches.open("hevrin.program")).keys()).length);
  await expect.poll(lies, { timeout: 60_000 }).toBe(1);
}

/**
 * The phone sleeps: its page is frozen and hidden, the time of day goes on by so many minutes, its own counting stands
 * still; then it is looked at again.
 */
async function sleep(page: Page, minutes: number) {
  const device = await page.context().newCDPSession(page);
  const shown = (how: "hidden" | "visible") =>
    page.evaluate((state) => {
      Object.defineProperty(document, "visibilityState", { configurable: true, get: () => state });
      Object.defineProperty(document, "hidden", { configurable: true, get: () => state === "hidden" });
      document.dispatchEvent(new Event("visibilitychange", { bubbles: true }));
    }, how);
  await shown("hidden");
  await device.send("Page.setWebLifecycleState", { state: "frozen" });
  const later = (ms: number) => {
    const Real = Date;
    globalThis.Date = new Proxy(Real, {
      construct: (of, given: []) => (given.length > 0 ? new of(...given) : new of(of.now() + ms)),
      get: (of, name) => (name === "now" ? () => of.now() + ms : (Reflect.get(of, name) as unknown)),
    });
  };
  await page.addInitScript(later, minutes * 60_000); // after a reload it is as late
  await page.evaluate(later, minutes * 60_000);
  for (const worker of page.workers()) await worker.evaluate(later, minutes * 60_000);
  await device.send("Page.setWebLifecycleState", { state: "active" });
  await shown("visible");
}

const seconds = (clock: string | null) => (clock ?? "").split(":").reduce((sum, n) => sum * 60 + Number(n), 0);

const noLink = (page: Page) => page.getByRole("status", { name: "No link" });

test("a boat is taken along; a hot engine to a proof by hand, and the boat's job goes on, with no link; then all is sent", async ({
  page,
  context,
}) => {
  let own = await demo(8441);
  await page.goto(own.address);
  const hand = new Hand(page);
  await page.getByRole("region", { name: "Brackling" }).getByRole("link", { name: /^Main/ }).first().click();
  await hand.button("Take this boat along");
  await expect(page.getByText("Last together with the yard")).toBeVisible();
  await expect(page.getByRole("button", { name: /^Along on this / })).toBeVisible();
  await hand.link("Hevrin");
  await page.getByRole("region", { name: "Sallow Ebb" }).getByRole("link", { name: /^Main/ }).first().click();
  await hand.button("Take this boat along");
  await expect(page.getByRole("button", { name: /^Along on this / })).toBeVisible();
  await installed(page);
  await own.stop();
  await context.setOffline(true);

  // from the home screen
  await page.goto(own.address);
  await expect(noLink(page)).toContainText(/this (phone|computer) goes on/);
  const now = page.getByRole("region", { name: "Hot engine now" });
  await hand.button("Diesel, closed-cooled", now);
  await hand.button("Hot under load", now);
  await hand.button(/^Go: /, now);
  await expect(page.getByRole("article").first()).toBeVisible();
  await hotEngineToReport(hand, "Walked alone");
  await page.reload(); // a dead battery between
  await expect(page.getByRole("article", { name: "The owner's report" })).toContainText(/cured/i);

  await expect(page.getByRole("status", { name: "Not with the yard yet" })).toBeVisible();

  // a flush of thirty minutes on another boat, through which the phone sleeps; and a second picture
  await page.getByRole("link", { name: "Hevrin" }).click();
  await startJob(page, "Sallow Ebb", "Sand in the strainer");
  await jobStep(page, "Repair");
  await hand.link("Flush, descale, coolant");
  await hand.button("Flush");
  const plan = page.getByRole("region", { name: "Plan a flush" });
  await hand.button("exhaust hose off at the elbow", plan);
  await hand.button("Plan it", plan);
  await hand.button(/^Begin/);
  await expect(page.getByRole("button", { name: /^Pause/ })).toBeVisible();
  const timer = page.getByRole("timer").first();
  await sleep(page, 30);
  await expect.poll(async () => seconds(await timer.textContent())).toBeGreaterThanOrEqual(1800);
  expect(seconds(await timer.textContent())).toBeLessThan(1900);
  await hand.button(/^Pause/);
  await expect(page.getByRole("button", { name: /^Resume/ })).toBeVisible();
  await page.reload();
  await expect.poll(async () => seconds(await timer.textContent())).toBeGreaterThanOrEqual(1800);
  await jobStep(page, "Find");
  const shot = { name: "sand.png", mimeType: "image/png", buffer: picture };
  await page.getByLabel("Take a picture").first().setInputFiles(shot);
  await hand.button("Save the picture", page.getByRole("dialog", { name: "Mark the picture" }));
  await expect(page.getByRole("dialog", { name: "Mark the picture" })).toHaveCount(0);

  // it is closed with two causes of which neither was seen: it was one of them
  const sandJob = new URL(page.url()).pathname.split("/")[2] ?? "";
  await hand.button("Close the job");
  const close = page.getByRole("dialog", { name: "What was it?" });
  const causes = close.getByRole("group", { name: "The cause" }).getByRole("button");
  await hand.tap(causes.nth(0));
  await hand.tap(causes.nth(1));
  await hand.button("One of these: which is not known", close);
  await hand.button("Yes, all of it", close);
  const because = close.getByLabel("Closed all the same, because");
  if (await because.isVisible()) await because.fill("Hauled out tomorrow");
  await hand.button("Close the job", close);
  await expect(close).toHaveCount(0);
  await expect(page.getByRole("alert").filter({ hasText: "explains everything" })).toContainText(" or ");

  // the boat that was taken along
  await page.getByRole("link", { name: "Hevrin" }).click();
  await page
    .getByRole("region", { name: "Brackling" })
    .getByRole("link", { name: /May 2026/ })
    .click();
  await jobStep(page, "Find");
  const first = await page.getByRole("article").first().getAttribute("aria-label");
  await answers(page).getByRole("button", { name: "Cannot get at it" }).click();
  await expect(page.getByRole("article").first()).not.toHaveAttribute("aria-label", first ?? "");

  // meanwhile another device closes that job, and the first answer to everything sent is lost on its way
  own = await demo(8441, false);
  const boat = new URL(page.url()).pathname.split("/")[2] ?? "";
  const closed = await fetch(`${own.address}/api/v1/jobs/${boat}/entries/${crypto.randomUUID()}`, {
    method: "PUT",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ kind: "closed", by: "Ide Marrack", faults: [], explains_everything: true, words: "done" }),
  });
  expect(closed.status, await closed.text()).toBe(200);
  const lost = new Set<string>();
  await context.route("**/api/v1/**", async (route) => {
    const at = route.request().url();
    if (route.request().method() !== "PUT" || lost.has(at)) return route.continue();
    lost.add(at);
    await route.fetch();
    await route.abort("connectionreset");
  });
  await context.setOffline(false);
  await expect(noLink(page)).toHaveCount(0, { timeout: 30_000 });
  const waits = () =>
    page.evaluate(
      () =>
        new Promise<number>((done) => {
          const open = indexedDB.open("hevrin");
          open.onsuccess = () => {
            const all = open.result.transaction("letters").objectStore("letters").count();
            all.onsuccess = () => done(all.result);
          };
        }),
    );
  await expect.poll(waits, { timeout: 90_000 }).toBe(1);
  expect(lost.size).toBeGreaterThan(20);

  // what the yard refused is asked about: it is told why, and how the job stands now is a touch away
  const refused = page.getByRole("status").filter({ hasText: "Not saved" });
  await expect(refused).toContainText("cannot get at it");
  await refused.getByRole("button", { name: "Show" }).click();
  const asks = page.getByRole("dialog", { name: "Not sent yet" });
  await expect(asks).toContainText("closed");
  await expect(asks.getByRole("link", { name: /^Open: / })).toBeVisible();
  await asks.getByRole("button", { name: "Drop" }).click();
  await expect.poll(waits).toBe(0);
  interface Yard {
    craft: { craft: { name: string }; engines: { jobs: { id: string }[] }[] }[];
  }
  const yard = (await (await page.request.get(`${own.address}/api/v1/yard`)).json()) as Yard;
  const jobOn = (name: string) => {
    const walked = yard.craft.filter((c) => c.craft.name === name);
    expect(walked).toHaveLength(1);
    return walked[0]?.engines[0]?.jobs[0]?.id ?? "";
  };
  const logOf = async (job: string) => {
    const { log, closed } = (await (await page.request.get(`${own.address}/api/v1/jobs/${job}`)).json()) as {
      log: { entry_id: string; kind: string; tapped_at?: string }[];
      closed?: { faults: string[]; one_of_these?: boolean };
    };
    expect(log.filter((l) => l.kind === "photo")).toHaveLength(1);
    expect(new Set(log.map((l) => l.entry_id)).size).toBe(log.length);
    const tapped = log.map((l) => Date.parse(l.tapped_at ?? ""));
    expect(tapped).toEqual([...tapped].sort((a, b) => a - b));
    return { kinds: log.map((l) => l.kind), closed };
  };
  expect((await logOf(jobOn("Walked alone"))).kinds.at(-1)).toBe("proving");
  const sand = await logOf(sandJob);
  expect(sand.kinds.filter((kind) => kind === "wet").length).toBeGreaterThanOrEqual(3); // planned, begun, paused
  expect(sand.closed).toMatchObject({ one_of_these: true });
  expect(sand.closed?.faults).toHaveLength(2);
  await own.stop();
});

test("practice goes on without a link, and outlives a dead battery", async ({ page, context }) => {
  const own = await demo(8443);
  await page.goto(own.address);
  await installed(page);
  await own.stop();
  await context.setOffline(true);
  await page.goto(own.address);
  await expect(noLink(page)).toBeVisible({ timeout: 20_000 });
  const hand = new Hand(page);
  await hand.link("Practice");
  await hand.button(/Water at the outlet first/);
  const bar = page.getByRole("region", { name: "Practice" });
  await expect(bar).toContainText("PRACTICE", { timeout: 30_000 });
  await hand.button("Next", page.getByRole("navigation", { name: "Parts of the job" }));
  await hand.button(/^(Look|Start it and look): /);
  await expect(page.getByRole("region", { name: "What you see" })).toBeVisible();
  await expect(bar).toContainText(/1\smin/);
  await page.reload();
  await expect(bar).toContainText(/1\smin/, { timeout: 30_000 });
  await hand.button("Note it as seen");
  await expect(page.getByRole("button", { name: "Note it as seen" })).toHaveCount(0);
  await hand.button("End");
  await hand.button("End it");
  await hand.link(/It is over/);
  await expect(page.getByRole("region", { name: "What it was" })).toContainText("Strainer clogged", {
    timeout: 30_000,
  });
});
