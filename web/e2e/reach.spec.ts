import { readFileSync } from "node:fs";
import type { Locator, Page } from "@playwright/test";
import { expect, test } from "./own";
import { answers, craftOf, go, isPhone, jobOf, nameFor, open, openJob } from "./yard";

/** The routes of the program, as they stand in it. */
function routes(): string[] {
  const source = readFileSync("src/App.tsx", "utf8");
  const list = source.slice(source.indexOf("const routes"), source.indexOf("] as const"));
  return [...list.matchAll(/\["(\/[^"]*)"/g)].map((m) => m[1] ?? "");
}

/** The route that an address belongs to. */
const routeOf = (path: string, all: string[]) =>
  all.find((r) => new RegExp(`^${r.replace(/:\w+/g, "[^/]+")}$`).test(path)) ?? path;

/** Where the links of a screen lead, or of a part of it. */
async function linksOn(page: Page, part = "body"): Promise<string[]> {
  return page.evaluate(
    (of) =>
      [...document.querySelectorAll(`${of} a[href]`)]
        .map((a) => new URL((a as HTMLAnchorElement).href))
        .filter((u) => u.origin === location.origin && !u.pathname.startsWith("/api/"))
        .map((u) => u.pathname + u.search),
    part,
  );
}

/** The screen stands, and nothing of it is still asked for. */
async function settled(page: Page) {
  await page.getByRole("main").getByRole("heading").first().waitFor();
  await expect(page.locator("[aria-busy=true]")).toHaveCount(0);
}

/** What does not fit: at 320 px, and at a desk with everything twice as large. */
async function tooWide(page: Page): Promise<string[]> {
  const desk = page.viewportSize() ?? { width: 1280, height: 800 };
  const out: string[] = [];
  // what hangs on the width is drawn again
  const drawn = () => page.evaluate(() => new Promise((d) => requestAnimationFrame(() => requestAnimationFrame(d))));
  for (const width of [320, desk.width / 2]) {
    await page.setViewportSize({ ...desk, width });
    await drawn();
    const fits = () => page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth);
    if (await fits()) continue;
    // a chart that was being drawn for another width: a device of this width draws it once
    await page.reload();
    await settled(page);
    if (!(await fits())) out.push(`${page.url()} at ${width} px`);
  }
  await page.setViewportSize(desk);
  await drawn();
  return out;
}

test("a crawl from the first page reaches every screen, and each fits on 320 px and at 200 %", async ({ page }) => {
  test.skip(isPhone(page)); // the links are the same
  test.setTimeout(300_000);
  const all = routes();
  expect(all.length).toBeGreaterThan(15);
  await open(page);
  await page.getByRole("region", { name: "Lissamar" }).waitFor();
  const wide = await tooWide(page);
  const reached = new Set(["/"]);
  // a craft of the demo first, with rounds on record: other tests make crafts of their own meanwhile
  const waiting = [...(await linksOn(page, '[aria-label="Fathom Ewe"]')), ...(await linksOn(page))];
  // other jobs and engines than the first that was met: what one does not lead to, another does
  const others = new Set<string>();
  const seen = new Set<string>();
  const behind = new Set<string>();
  const next = () => {
    for (let to = waiting.shift(); to; to = waiting.shift()) {
      if (!reached.has(routeOf(to.split("?")[0] ?? "/", all))) return to;
      if (!seen.has(to)) others.add(to);
    }
    const other = all.some((r) => !reached.has(r)) && [...others].find((o) => !seen.has(o));
    return seen.size < 40 && other ? other : undefined;
  };
  for (let to = next(); to; to = next()) {
    seen.add(to);
    reached.add(routeOf(to.split("?")[0] ?? "/", all));
    await go(page, to);
    await settled(page);
    waiting.push(...(await linksOn(page)));
    wide.push(...(await tooWide(page)));
    // what lies behind the panes of a screen
    const panes = page.getByRole("main").locator("nav button, button[aria-pressed]:has(kbd)");
    for (let i = 0; i < (await panes.count()); i++) {
      const name = await panes.nth(i).evaluate((b) => `${b.closest("nav")?.ariaLabel}: ${b.textContent}`);
      if (behind.has(name)) continue; // the same on every screen of a job
      behind.add(name);
      await panes.nth(i).click();
      await settled(page);
      waiting.push(...(await linksOn(page)));
    }
  }
  expect(all.filter((r) => !reached.has(r))).toEqual([]);
  expect(wide).toEqual([]);
});

const circuits = {
  closed: undefined,
  direct: [
    ["intake", "seacock", "strainer", "suction-hose", "raw-pump", "raw-filter", "gear-cooler", "circ-pump", "block"],
    [
      "thermostat",
      "raw-hoses",
      "anti-siphon",
      "elbow",
      "exhaust-hose",
      "silencer",
      "outlet",
      "gauge",
      "exhaust-sensor",
    ],
    ["load"],
  ].flat(),
};

const sizes = [
  { width: 360, height: 640 },
  { width: 390, height: 844 },
];

for (const [family, circuit] of Object.entries(circuits)) {
  test(`every answer of every check is within reach when its card opens, ${family}`, async ({ page }, info) => {
    test.skip(!isPhone(page));
    const name = nameFor(info, `Reach ${family}`);
    // a petrol engine has the most cautions
    const engine = await craftOf(page, name, {
      fuel: "petrol",
      ...(circuit && { family, circuit, thermostat_c: 62 }),
    });
    const job = await jobOf(page, engine, "Hot");
    await open(page);
    await openJob(page, name);
    const { diagnosis } = (await (await page.request.get(`/api/v1/jobs/${job}`)).json()) as {
      diagnosis: { next_checks: { check: string }[] };
    };
    expect(diagnosis.next_checks.length).toBeGreaterThan(20);
    const { findings } = (await (await page.request.get("/api/v1/catalogue/drawings")).json()) as {
      findings: Record<string, { present: { plate?: string } }>;
    };
    const { checks } = (await (await page.request.get("/api/v1/catalogue")).json()) as {
      checks: { id: string; settles: string[] }[];
    };
    const out: string[] = [];
    let drawn = 0;
    await page.getByRole("link", { name: "Find", exact: true }).click();
    for (const { check } of diagnosis.next_checks) {
      await go(page, `/jobs/${job}?pane=next&check=${check}`);
      await expect(answers(page)).toHaveAttribute("data-check", check);
      const settles = checks.find((k) => k.id === check)?.settles ?? [];
      if (settles.length < 6 && settles.every((f) => findings[f]?.present.plate)) {
        await expect(answers(page).locator("svg").first(), `${check}: what it looks like`).toBeVisible();
        drawn++;
      }
      for (let question = 0; question < 12; question++) {
        for (const size of sizes) {
          await page.setViewportSize(size);
          out.push(...(await outside(page, `${check} at ${size.width}, question ${question + 1}`)));
        }
        const after = page.getByRole("button", { name: "Question after" });
        if ((await after.count()) === 0 || (await after.isDisabled())) break;
        await after.click();
      }
    }
    expect(out).toEqual([]);
    expect(drawn).toBeGreaterThan(25);
  });
}

test("on a small screen the next check is seen above its answers, and what is shut stays in sight", async ({
  page,
}, info) => {
  test.skip(!isPhone(page));
  const name = nameFor(info, "Small");
  const job = await jobOf(page, await craftOf(page, name), "Hot");
  await page.request.put(`/api/v1/jobs/${job}/entries/${crypto.randomUUID()}`, {
    data: { by: "Kit Venn", kind: "strip", strip: { do: "isolate", item: "seacock" } },
  });
  await page.setViewportSize({ width: 390, height: 664 }); // a phone's browser, of which its own bars take a part
  await open(page);
  await openJob(page, name);
  await page.getByRole("link", { name: "Find", exact: true }).click();
  for (let check = ""; check !== "belt-look";) {
    check = (await answers(page).getAttribute("data-check")) ?? "";
    await answers(page).getByRole("button", { name: "Inconclusive" }).click();
    await expect(answers(page)).not.toHaveAttribute("data-check", check);
    const [shut, title, dock] = [
      await edges(page.getByRole("note", { name: "State of the engine" })),
      await edges(page.getByRole("article").locator("h2")),
      await edges(answers(page)),
    ];
    expect(shut.top, check).toBeGreaterThanOrEqual(0);
    expect(title.top, check).toBeGreaterThanOrEqual(shut.bottom);
    expect(title.bottom, check).toBeLessThanOrEqual(dock.top);
  }
});

/** Where something begins and ends on the screen, in px. */
async function edges(at: Locator) {
  const box = await at.first().boundingBox();
  if (!box) throw new Error("it is not there");
  return { top: box.y, bottom: box.y + box.height };
}

/** The buttons of the answers that do not stand whole between the top and the bar at the foot, or are under 48 px. */
async function outside(page: Page, where: string): Promise<string[]> {
  return answers(page).evaluate((group, at) => {
    const foot = document.querySelector('nav[aria-label="Places"]:last-of-type');
    const bars = [...document.querySelectorAll('nav[aria-label="Places"]')].map((n) => n.getBoundingClientRect());
    const bottom = Math.min(window.innerHeight, ...bars.filter((b) => b.height > 0).map((b) => b.top));
    return [...group.querySelectorAll("button, a")].flatMap((b) => {
      const r = b.getBoundingClientRect();
      const bad =
        r.top < 0 || r.bottom > bottom + 0.5 || r.left < 0 || r.right > window.innerWidth || r.height < 47.5 || !foot;
      return bad ? [`${at}: ${b.textContent}, ${Math.round(r.top)} to ${Math.round(r.bottom)} of ${bottom}`] : [];
    });
  }, where);
}
