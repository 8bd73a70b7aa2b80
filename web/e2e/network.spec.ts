import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createECDH, randomBytes } from "node:crypto";
import { createServer } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, expect, test, type Browser, type BrowserContext, type Page } from "@playwright/test";
import { film } from "./film";

// A yard of its own, over TLS, at an address of this machine that a name is mapped to in the browser alone.
const [address, port, servicePort] = ["127.0.0.7", 8433, 8434];
const base = `https://yard.test:${port}`;
const phrases = { boss: "kettle moss ladder orange", kit: "brass tide lantern almond" };

test.describe.configure({ mode: "serial" });
test.beforeEach(({ viewport }) => test.skip((viewport?.width ?? 0) < 600, "both widths are opened here, side by side"));

let data: string;
let program: ChildProcess | undefined;
let browser: Browser | undefined;

const contexts: BrowserContext[] = [];

async function device(kind: "phone" | "desk", of = browser): Promise<Page> {
  const phone = kind === "phone";
  if (!of) throw new Error("no browser");
  const context = await of.newContext({
    baseURL: base,
    serviceWorkers: of === browser ? "block" : "allow",
    ignoreHTTPSErrors: true, // the yard's own authority, which this browser was not given
    locale: "en-GB",
    reducedMotion: "reduce",
    viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
    hasTouch: phone,
  });
  contexts.push(context);
  context.setDefaultTimeout(15_000);
  return context.newPage();
}

async function signIn(page: Page, name: string, passphrase: string) {
  await page.getByLabel("Name").fill(name);
  await page.getByRole("textbox", { name: "Passphrase" }).fill(passphrase);
  await page.getByRole("button", { name: "Sign in" }).click();
}

const launched = (...more: string[]) =>
  chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      `--host-resolver-rules=MAP yard.test ${address}`,
      ...more,
    ],
  });

/** Asks for something as the page would: the name is known to the browser alone. */
const ask = (page: Page, path: string, body?: Record<string, unknown>) =>
  page.evaluate(
    async ([to, given]) => {
      const answer = await fetch(
        `/api/v1${to}`,
        given && { method: "PUT", headers: { "Content-Type": "application/json" }, body: JSON.stringify(given) },
      );
      return answer.status;
    },
    [path, body && { by: "nobody", ...body }] as const,
  );

const put = async (page: Page, path: string, body: Record<string, unknown>) =>
  expect(await ask(page, path, body)).toBe(200);

// oxlint-disable-next-line no-empty-pattern
test.beforeAll(async ({}, info) => {
  if (info.project.name !== "desk") return;
  data = mkdtempSync(join(tmpdir(), "hevrin-yard-"));
  const setup = spawnSync(
    "../bin/hevrin",
    ["setup", "--data", data, "--host", "yard.test", "--manager", "Tamsin Vane"],
    {
      input: phrases.boss + "\n",
    },
  );
  expect(setup.status, setup.stderr.toString()).toBe(0);
  const listen = ["--listen", `${address}:${port}`, "--push-service", `${address}:${servicePort}`];
  program = spawn("../bin/hevrin", ["serve", "--data", data, ...listen], { stdio: "pipe" });
  await new Promise<void>((ready) => program?.stdout?.on("data", () => ready()));
  browser = await launched();
});

test.afterAll(async () => {
  for (const c of contexts) await c.close();
  await browser?.close();
  if (!program) return;
  const ended = new Promise((done) => program?.on("exit", done));
  program.kill();
  await ended;
  rmSync(data, { recursive: true });
});

test("two people work one job from a desk and a phone, each under their own name", async () => {
  const desk = await device("desk");
  await desk.goto("/");
  await signIn(desk, "Tamsin Vane", "wrong wrong wrong");
  await expect(desk.getByRole("alert")).toContainText("do not belong together");
  await desk.getByRole("textbox", { name: "Passphrase" }).fill(phrases.boss);
  await desk.getByRole("button", { name: "Sign in" }).click();
  await expect(desk.getByRole("heading", { name: "No job open" })).toBeVisible();

  // an invitation: a code for the certificate, a code for the person, and the link
  await desk.getByRole("link", { name: "People", exact: true }).click();
  await desk.getByRole("button", { name: "Invite somebody" }).click();
  const invite = desk.getByRole("dialog", { name: "Invite somebody" });
  await invite.getByLabel("Name").fill("Kit Venn");
  await invite.getByRole("button", { name: /^Assistant/ }).click();
  await invite.getByRole("button", { name: "Make the invitation" }).click();
  const made = desk.getByRole("dialog", { name: "For Kit Venn" });
  await expect(made.getByRole("img", { name: "The yard's certificate" })).toBeVisible();
  await expect(made.getByRole("img", { name: "Invitation for Kit Venn" })).toBeVisible();
  const link = await made.getByLabel("Link").inputValue();
  expect(link).toMatch(/^https:\/\/yard\.test:8433\/join#[\w-]{43}$/);
  await made.getByRole("button", { name: "Done" }).click();
  await expect(desk.getByRole("listitem").filter({ hasText: "Kit Venn" })).toContainText("invited, not here yet");

  const phone = await device("phone");
  await phone.goto(link);
  await expect(phone.getByRole("heading", { name: "Welcome, Kit Venn" })).toBeVisible();
  await phone.getByRole("textbox", { name: "New passphrase" }).fill("password1234");
  await phone.getByRole("button", { name: "Come in" }).click();
  await expect(phone.getByRole("alert")).toContainText("tried first");
  await phone.getByRole("textbox", { name: "New passphrase" }).fill(phrases.kit);
  await phone.getByRole("button", { name: "Come in" }).click();
  await expect(phone.getByRole("heading", { name: "No job open" })).toBeVisible();
  // taken once
  const other = await device("phone");
  await other.goto(link);
  await expect(other.getByRole("alert")).toContainText("used up");

  // a job: the desk opens it, the phone notes in it, the desk sees that by itself, by whom
  const [craft, engine, job] = [crypto.randomUUID(), crypto.randomUUID(), crypto.randomUUID()];
  await put(desk, `/craft/${craft}`, { entry_id: crypto.randomUUID(), name: "Ormsgill" });
  await put(desk, `/engines/${engine}`, {
    entry_id: crypto.randomUUID(),
    craft_id: craft,
    name: "Main",
    family: "closed",
    fuel: "diesel",
    rated_kw: 60,
    rated_rpm: 3000,
    thermostat_c: 82,
    circuit: [
      "intake",
      "seacock",
      "strainer",
      "suction-hose",
      "raw-pump",
      "exchanger",
      "raw-hoses",
      "elbow",
      "outlet",
      "header",
      "circ-pump",
      "block",
      "thermostat",
      "gauge",
      "load",
    ],
  });
  await put(desk, `/jobs/${job}`, { entry_id: crypto.randomUUID(), engine_id: engine, words: "Hot at speed" });
  await desk.getByRole("link", { name: "Yard", exact: true }).first().click();
  await desk
    .getByRole("link", { name: /Hot at speed/ })
    .first()
    .click();
  await phone
    .getByRole("link", { name: /Hot at speed/ })
    .first()
    .click();
  await phone.getByRole("link", { name: "Find", exact: true }).first().click();
  await desk
    .getByRole("button", { name: /^Log/ })
    .or(desk.getByRole("link", { name: /^Log/ }))
    .first()
    .click();
  await put(phone, `/jobs/${job}/entries/${crypto.randomUUID()}`, {
    kind: "note",
    words: "Strainer full of weed",
  });
  await expect(desk.getByText("Strainer full of weed").first()).toBeVisible();
  await expect(desk.getByText("Kit Venn").first()).toBeVisible();

  // who else is at it, and at which check
  await expect(desk.getByRole("note", { name: "Also here" })).toContainText("Kit Venn, at “");
  await desk
    .getByRole("button", { name: "Next", exact: true })
    .or(desk.getByRole("tab", { name: "Next" }))
    .first()
    .click();
  await expect(desk.getByText("Kit Venn has this check open too", { exact: false })).toBeVisible();
  await expect(phone.getByText("Tamsin Vane has this check open too", { exact: false })).toBeVisible();

  // the role bites: an assistant sees no backups, and may not hand papers out
  expect(await ask(phone, "/backup")).toBe(403);
  expect(await ask(phone, `/jobs/${job}/report.pdf`)).toBe(403);
});

test("a lost phone is signed out at once, and what waits on it is sent by the same person", async () => {
  const [deskContext, phoneContext] = contexts;
  const [desk, phone] = [deskContext?.pages()[0], phoneContext?.pages()[0]];
  if (!desk || !phone || !phoneContext) throw new Error("the first test opens both");
  // a tap without a link, then the phone is signed out from the desk
  await phone
    .getByRole("button", { name: /^Log/ })
    .or(phone.getByRole("link", { name: /^Log/ }))
    .first()
    .click();
  await phone.getByLabel("Note").fill("Weed up to the lid");
  await phoneContext.setOffline(true);
  await phone.getByRole("button", { name: "Save", exact: true }).click();
  await expect(phone.getByRole("status", { name: "No link" })).toContainText("1 thing waits");
  await desk.getByRole("link", { name: "Tamsin Vane is writing: change" }).click();
  await desk.getByRole("button", { name: /^Sign out Kit Venn/ }).click();
  await expect(desk.getByRole("button", { name: /^Sign out Kit Venn/ })).toHaveCount(0);
  await phoneContext.setOffline(false);
  await expect(phone.getByRole("heading", { name: "Sign in" })).toBeVisible();
  await expect(phone.getByText("This device is signed out. 1 thing waits", { exact: false })).toBeVisible();

  // another person: asked about, not sent
  await signIn(phone, "Tamsin Vane", phrases.boss);
  await expect(phone.getByText("Not saved: Note saved.", { exact: true })).toBeVisible();
  await phone.getByRole("button", { name: "Show" }).click();
  await expect(phone.getByRole("dialog")).toContainText("Kit Venn tapped this, and Tamsin Vane is signed in now");
  await phone.getByRole("button", { name: "Close" }).click();
  await phone.getByRole("link", { name: "Tamsin Vane is writing: change" }).click();
  await phone.getByRole("button", { name: "Sign out", exact: true }).click();

  // the same person: it goes by itself
  await signIn(phone, "Kit Venn", phrases.kit);
  await desk.getByRole("link", { name: "Yard", exact: true }).first().click();
  await desk
    .getByRole("link", { name: /Hot at speed/ })
    .first()
    .click();
  await desk
    .getByRole("button", { name: /^Log/ })
    .or(desk.getByRole("link", { name: /^Log/ }))
    .first()
    .click();
  await expect(desk.getByText("Weed up to the lid").first()).toBeVisible();
});

test("signed out on one screen: the stream and the page end at once; a shared tablet changes hands by a PIN", async () => {
  const tablet = await device("desk");
  await tablet.goto("/");
  await signIn(tablet, "Kit Venn", phrases.kit);
  await tablet.getByRole("link", { name: "Kit Venn is writing: change" }).click();
  await tablet.getByRole("button", { name: "A PIN for shared devices" }).click();
  await tablet.getByRole("textbox", { name: "Your passphrase" }).fill(phrases.kit);
  await tablet.getByRole("textbox", { name: "PIN" }).fill("483920");
  await tablet.getByRole("button", { name: "Set it" }).click();
  await expect(tablet.getByRole("button", { name: "Another PIN" })).toBeVisible();
  // the manager takes over with the passphrase, then Kit again in two taps
  await tablet.getByRole("button", { name: "With their passphrase" }).click();
  const dialog = tablet.getByRole("dialog");
  await dialog.getByLabel("Name").fill("Tamsin Vane");
  await dialog.getByRole("textbox", { name: "Passphrase" }).fill(phrases.boss);
  await dialog.getByRole("button", { name: "Sign in" }).click();
  await expect(tablet.getByRole("heading", { name: "Tamsin Vane", level: 1 })).toBeVisible();
  await tablet.getByRole("button", { name: "Kit Venn", exact: true }).click();
  await dialog.getByRole("textbox", { name: "PIN" }).fill("483920");
  await dialog.getByRole("button", { name: "Take over" }).click();
  await expect(tablet.getByRole("heading", { name: "Kit Venn", level: 1 })).toBeVisible();

  // signed out from elsewhere: the screen goes by itself, without a touch
  const desk = contexts[0]?.pages()[0];
  if (!desk) throw new Error("the first test opens it");
  await desk.getByRole("link", { name: "Tamsin Vane is writing: change" }).click();
  const kits = desk.getByRole("button", { name: /^Sign out Kit Venn/ });
  await expect(kits).toHaveCount(2);
  await kits.first().click();
  await expect(kits).toHaveCount(1);
  await kits.first().click();
  await expect(tablet.getByRole("heading", { name: "Sign in" })).toBeVisible();

  // what happened stands in the audit log
  await desk.getByRole("link", { name: "People", exact: true }).click();
  await desk.getByRole("link", { name: "Audit log" }).click();
  const lines = desk.getByRole("list", { name: "Lines" });
  for (const what of [
    "Device signed out from elsewhere",
    "Took a shared device over",
    "Not allowed",
    "Invitation taken",
  ])
    await expect(lines.getByText(what).first()).toBeVisible();
});

test("labels are printed, and their codes find what they stick on", async () => {
  const desk = contexts[0]?.pages()[0];
  if (!desk) throw new Error("the first test opens it");
  await desk.getByRole("link", { name: "Yard", exact: true }).first().click();
  await desk.getByRole("link", { name: "Labels" }).click();
  const label = desk.getByRole("list", { name: "Labels" }).getByRole("listitem").filter({ hasText: "Ormsgill" });
  await expect(label.getByRole("img", { name: "Code of Ormsgill" })).toBeVisible();
  const code = (await label.innerText()).match(/[0-9A-F]{4}-[0-9A-F]{4}/)?.[0] ?? "no code";
  await desk.getByRole("button", { name: "Search" }).click();
  await desk.getByRole("dialog").locator("input").fill(code);
  await desk
    .getByRole("dialog")
    .getByRole("link", { name: /Ormsgill/ })
    .first()
    .click();
  await expect(desk.getByRole("heading", { level: 1 })).toContainText("Main");
  // or the camera sees it
  await desk.goBack();
  const svg = label.getByRole("img", { name: "Code of Ormsgill" });
  const squares = Number((await svg.getAttribute("viewBox"))?.split(" ")[2]) - 8;
  const seen = await film(desk, join(data, "camera.y4m"), (await svg.locator("path").getAttribute("d")) ?? "", squares);
  const camera = await launched(
    "--use-fake-device-for-media-stream",
    "--use-fake-ui-for-media-stream",
    `--use-file-for-fake-video-capture=${seen}`,
  );
  const eye = await device("phone", camera);
  await eye.goto("/");
  await signIn(eye, "Tamsin Vane", phrases.boss);
  await eye.getByRole("button", { name: "Search" }).click();
  await eye.getByRole("button", { name: "Scan a label" }).click();
  await expect(eye.getByRole("heading", { level: 1 })).toContainText("Ormsgill, Main");
  await camera.close();
  contexts.pop();
  // the calendar is one's own
  await desk.getByRole("link", { name: "Tamsin Vane is writing: change" }).click();
  await desk.getByRole("button", { name: "Make an address" }).click();
  const address = await desk.getByLabel("Address, shown now only").inputValue();
  const read = (page: Page) => page.evaluate(async (at) => (await fetch(at)).text(), new URL(address).pathname);
  expect(await read(desk)).toContain("BEGIN:VCALENDAR");
});

test("an owner reads the report by a link, approves, and reaches nothing else", async () => {
  const desk = contexts[0]?.pages()[0];
  if (!desk) throw new Error("the first test opens it");
  await desk.getByRole("link", { name: "Yard", exact: true }).first().click();
  await desk
    .getByRole("link", { name: /Hot at speed/ })
    .first()
    .click();
  await desk.getByRole("link", { name: "Report", exact: true }).first().click();
  const links = desk.getByRole("region", { name: "The owner's link" });
  await links.getByRole("button", { name: "Make a link" }).click();
  await expect(links.getByRole("img", { name: "The owner's link" })).toBeVisible();
  const link = await links.getByLabel("Link, shown now only").inputValue();

  const owner = await device("phone");
  await owner.goto(link);
  await expect(owner.getByRole("article", { name: "The owner's report" })).toContainText("Ormsgill");
  expect(await owner.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  expect(await ask(owner, "/yard")).toBe(401);
  await owner.getByLabel("Your name").fill("R. Thrale");
  await owner.getByLabel("A question, or a word").fill("Please go on.");
  await owner.getByRole("button", { name: "I approve" }).click();
  await expect(owner.getByRole("status")).toContainText("the yard sees that you approve");
  await owner.goto("/");
  await expect(owner.getByRole("heading", { name: "Sign in" })).toBeVisible();

  await desk
    .getByRole("button", { name: /^Log/ })
    .or(desk.getByRole("link", { name: "Find", exact: true }))
    .first()
    .click();
  await desk
    .getByRole("button", { name: /^Log/ })
    .or(desk.getByRole("link", { name: /^Log/ }))
    .first()
    .click();
  await expect(desk.getByText("Approved. Please go on.").first()).toBeVisible();
  await desk.getByRole("link", { name: "Report", exact: true }).first().click();
  await expect(links).toContainText("Opened once; answered");
  await links.getByRole("button", { name: "End it" }).click();
  await expect(links).toContainText("Ended");
  await owner.goto(link);
  await expect(owner.getByRole("alert")).toContainText("this link has ended");

  // an engine's page, for reading
  await desk.getByRole("link", { name: "Yard", exact: true }).first().click();
  await desk.getByRole("link", { name: /^Main/ }).first().click();
  await links.getByRole("button", { name: "Make a link" }).click();
  await owner.goto(await links.getByLabel("Link, shown now only").inputValue());
  const article = owner.getByRole("article", { name: "Ormsgill, Main" });
  await expect(article.getByRole("alert")).toContainText("Do not start or crank it");
  await expect(article.getByRole("region", { name: "What was done" })).toContainText("Hot at speed");
  await expect(owner.getByText("Strainer full of weed")).toHaveCount(0);
  await expect(owner.getByRole("button", { name: "I approve" })).toHaveCount(0);
  expect(await owner.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
});

test("reminders are turned on, go to the browser's service, and are shown by the device", async () => {
  // a stand-in for the service of a browser, which this machine does not reach
  const taken: string[] = [];
  const service = createServer((request, answer) => {
    taken.push(`${request.method} ${request.url} ${request.headers["content-encoding"]}`);
    request.resume().on("end", () => answer.writeHead(201).end());
  });
  await new Promise<void>((ready) => service.listen(servicePort, address, ready));
  const own = await launched("--ignore-certificate-errors"); // as if the yard's certificate were put on it
  const phone = await device("phone", own);
  const context = phone.context();
  const browserKey = createECDH("prime256v1");
  const p256dh = browserKey.generateKeys().toString("base64url");
  await context.addInitScript(
    ([endpoint, key, auth]) => {
      // a browser without a screen allows no notifications
      Object.defineProperty(Notification, "permission", { get: () => "granted" });
      Notification.requestPermission = () => Promise.resolve("granted");
      PushManager.prototype.subscribe = () =>
        Promise.resolve({ toJSON: () => ({ endpoint, keys: { p256dh: key, auth } }) } as unknown as PushSubscription);
    },
    [`http://${address}:${servicePort}/send/one`, p256dh, randomBytes(16).toString("base64url")] as const,
  );
  await phone.goto("/");
  await signIn(phone, "Tamsin Vane", phrases.boss);
  await phone.getByRole("link", { name: "Tamsin Vane is writing: change" }).click();
  await phone.evaluate(async () => void (await navigator.serviceWorker.ready));
  const reminders = phone.getByRole("region", { name: "Reminders on this device" });
  await reminders.getByRole("button", { name: "Remind me here", exact: true }).click();
  await expect(reminders.getByRole("button", { name: "Remind me here no more" })).toBeVisible();
  expect(taken).toEqual(["POST /send/one aes128gcm"]);

  // what comes is shown; a browser without a screen shows none, so it is written down what would be
  const [worker] = context.serviceWorkers();
  await worker?.evaluate(() => {
    const shown: string[] = [];
    const scope = self as unknown as {
      shown: string[];
      registration: { showNotification: (title: string, o: { body: string; data: string }) => Promise<void> };
    };
    scope.shown = shown;
    scope.registration.showNotification = (title, o) => {
      shown.push(`${title}: ${o.body}, opens ${o.data}`);
      return Promise.resolve();
    };
  });
  const cdp = await context.newCDPSession(phone);
  const registration = new Promise<string>((known) =>
    cdp.on("ServiceWorker.workerRegistrationUpdated", ({ registrations }) => {
      if (registrations[0]) known(registrations[0].registrationId);
    }),
  );
  await cdp.send("ServiceWorker.enable");
  await cdp.send("ServiceWorker.deliverPushMessage", {
    origin: base,
    registrationId: await registration,
    data: JSON.stringify({ title: "1 thing is due", body: "Ormsgill, Main", path: "/due", tag: "due" }),
  });
  await expect
    .poll(() => worker?.evaluate(() => (self as unknown as { shown: string[] }).shown))
    .toEqual(["1 thing is due: Ormsgill, Main, opens /due"]);

  // somebody else signs in as her: this phone is told at once, and it stands under her name
  const other = await device("desk", own);
  await other.goto("/");
  await signIn(other, "Tamsin Vane", phrases.boss);
  await expect.poll(() => taken.length).toBe(2);
  await other.getByRole("link", { name: "Tamsin Vane is writing: change" }).click();
  await other.getByRole("button", { name: "What happened to it" }).click();
  await expect(other.getByRole("region", { name: "Your account" })).toContainText("Signed in on another device");
  await reminders.getByRole("button", { name: "Remind me here no more" }).click();
  await expect(reminders.getByRole("button", { name: "Remind me here", exact: true })).toBeVisible();
  await own.close();
  contexts.splice(-2);
  service.close();
});
