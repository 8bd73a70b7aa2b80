import { expect, type Page, type TestInfo } from "@playwright/test";

export const isPhone = (page: Page) => (page.viewportSize()?.width ?? 1280) < 600;

/** Opens the program as somebody who has written their name before. */
export async function open(page: Page, path = "/") {
  await page.addInitScript(() => {
    if (!localStorage.getItem("hevrin.writer")) localStorage.setItem("hevrin.writer", "Kit Venn");
  });
  await page.goto(path);
}

/** Goes to a screen within the open program, as one of its links would: the program is not loaded anew. */
export async function go(page: Page, to: string) {
  const shown = page.locator("#content");
  const before = await shown.getAttribute("data-at");
  await page.evaluate((path) => {
    history.pushState({}, "", path);
    dispatchEvent(new PopStateEvent("popstate"));
  }, to);
  const there = to.split("?")[0];
  // one that leads on has another address
  await expect.poll(async () => shown.getAttribute("data-at").then((at) => at === there || at !== before)).toBe(true);
}

/** Goes to a part of the job, by the bar under its steps on a phone, by the tabs at a desk. */
export async function part(page: Page, name: string) {
  const home = isPhone(page) ? page.getByRole("navigation", { name: "Parts of the job" }) : page.getByRole("main");
  await home
    .getByRole("button", { name: new RegExp(`^${name}`) })
    .first()
    .click();
}

/** The answers of the check in hand: in its card at a desk, within the thumb's reach on a phone. */
export const answers = (page: Page) => page.getByRole("group", { name: "What did you find?" });

/** Goes to a step of the job, which is a touch away on each of its screens. */
export async function jobStep(page: Page, name: "Complaint" | "Plan" | "Find" | "Repair" | "Prove" | "Report") {
  await page.getByRole("navigation", { name: "Job steps" }).getByRole("link", { name, exact: true }).click();
}

/** A name of the test's own, also when it is run again and again to find what fails now and then. */
export const nameFor = (info: TestInfo, what: string) =>
  `${what} ${info.repeatEachIndex > 0 ? `${info.repeatEachIndex} ` : ""}${info.project.name}`;

/** Keeps something by the program's own route, as a screen would; anything refused ends the test. */
async function put(page: Page, path: string, data: object) {
  const answer = await page.request.put(`/api/v1${path}`, {
    data: { entry_id: crypto.randomUUID(), by: "Kit Venn", ...data },
  });
  expect(answer.ok(), await answer.text()).toBe(true);
}

const circuit = [
  ["intake", "seacock", "strainer", "suction-hose", "raw-pump", "raw-filter", "gear-cooler", "exchanger", "raw-hoses"],
  [
    "elbow",
    "exhaust-hose",
    "silencer",
    "outlet",
    "header",
    "circ-pump",
    "block",
    "thermostat",
    "coolant-hoses",
    "gauge",
  ],
  ["load"],
].flat();

/** A craft with an engine of its own, so that tests do not lean on each other. */
export async function craftOf(page: Page, name: string, change: object = {}) {
  const [craft, engine] = [crypto.randomUUID(), crypto.randomUUID()];
  await put(page, `/craft/${craft}`, { name });
  await put(page, `/engines/${engine}`, {
    craft_id: craft,
    name: "Main",
    family: "closed",
    fuel: "diesel",
    rated_kw: 60,
    rated_rpm: 3000,
    thermostat_c: 82,
    circuit,
    ...change,
  });
  return engine;
}

/** A job on an engine. */
export async function jobOf(page: Page, engine: string, words: string) {
  const job = crypto.randomUUID();
  await put(page, `/jobs/${job}`, { engine_id: engine, words });
  return job;
}

/** The same, seen on the yard's page by somebody who has written their name before. */
export async function engineOf(page: Page, name: string) {
  const engine = await craftOf(page, name);
  await open(page);
  await expect(page.getByRole("region", { name }).getByRole("link", { name: /^Main/ })).toBeVisible();
  return engine;
}

/** The same, put in by hand. */
export async function engineByHand(page: Page, name: string) {
  await open(page);
  await page.getByRole("button", { name: "Add a craft" }).click();
  await page.getByLabel("Name of the craft").fill(name);
  await page.getByRole("button", { name: "Save" }).click();
  await page.getByRole("button", { name: `Add an engine to ${name}` }).click();
  const form = page.getByRole("dialog");
  await form.getByRole("textbox", { name: "Name" }).fill("Main");
  await form.getByLabel("Rated power, kW").fill("60");
  await form.getByLabel("at rev/min").fill("3000");
  await form.getByRole("button", { name: /^Its circuit/ }).click();
  await form.getByRole("button", { name: "Put in: Raw-water filter" }).click();
  await form.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("region", { name }).getByRole("link", { name: /^Main/ })).toBeVisible();
}

export async function startJob(page: Page, craft: string, words: string) {
  await page.getByRole("button", { name: `Start a job on ${craft}, Main` }).click();
  await page.getByLabel("Owner's complaint").fill(words);
  await page.getByRole("button", { name: "Start the job" }).click();
  await expect(page.getByRole("region", { name: "Complaint" })).toBeVisible();
}

/** Opens the newest job of a craft from the first page. */
export async function openJob(page: Page, craft: string) {
  await page.getByRole("link", { name: "Hevrin" }).click();
  await page
    .getByRole("region", { name: craft, exact: true })
    .getByRole("link", { name: /\b20\d\d\b/ })
    .first()
    .click();
  await expect(page.getByRole("navigation", { name: "Job steps" })).toBeVisible();
}
