import "fake-indexeddb/auto";
import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Refused } from "./client";
import { devicePages, keepPages, mostPages, oldest, type Pages } from "./kept";
import { memory } from "./memory";

const job = ["job", "one"];
let pages: Pages;
let stops: (() => void)[] = [];

const signedIn = (id: string | undefined) =>
  memory.write("hevrin.session", {
    mode: id === undefined ? "alone" : "yard",
    signed_in: id !== "",
    rights: [],
    tiles: [],
    ...(id && { person: { id, name: id } }),
  });

/** A program that was just opened: its cache is empty, and asks by itself. */
function opened(ask: () => Promise<unknown>, at = Date.now()) {
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  stops.push(keepPages(cache, pages, () => at));
  const seen: unknown[] = [];
  const of = (key: readonly unknown[] = job) => {
    const o = new QueryObserver(cache, { queryKey: key, queryFn: ask, staleTime: 1000 });
    stops.push(o.subscribe((r) => r.data !== undefined && seen.push(r.data)));
    return o;
  };
  return { of, seen };
}

/** Long enough for what must not come, as a rule; what must come is waited for. */
const settled = () => new Promise((done) => setTimeout(done, 30));
const soon = (what: () => unknown) => vi.waitFor(what, { timeout: 30_000 });
const kept = (key: readonly unknown[] = job) => pages.get(JSON.stringify(key));
const noLink = () => Promise.reject(new TypeError("no link"));

beforeEach(async () => {
  signedIn(undefined);
  pages = devicePages();
  await pages.clear();
});
afterEach(() => {
  stops.forEach((s) => s());
  stops = [];
  signedIn(undefined);
  memory.set("hevrin.units", undefined);
});

async function visit(at = Date.now(), key: readonly unknown[] = job) {
  const { of, seen } = opened(() => Promise.resolve("as it was"), at);
  of(key);
  await soon(() => expect(seen).toEqual(["as it was"]));
}

/** A visit whose page is on the device by then. */
async function visitKept(at?: number) {
  await visit(at);
  await soon(async () => expect(await kept()).toBeDefined());
}

test("what was read with a link is there without one, and the newest wins where there is one", async () => {
  await visitKept();
  const without = opened(noLink);
  const o = without.of();
  await soon(() => expect(without.seen.at(-1)).toBe("as it was"));
  await soon(() => expect(o.getCurrentResult().isError).toBe(true)); // the screen says that it is not of now
  const again = opened(() => Promise.resolve("as it is"));
  again.of();
  await soon(() => expect(again.seen.at(-1)).toBe("as it is"));
});

test("what is looked back on is there without a link too", async () => {
  await visit(Date.now(), ["hindsight"]);
  await soon(async () => expect(await kept(["hindsight"])).toBeDefined());
  const without = opened(noLink);
  without.of(["hindsight"]);
  await soon(() => expect(without.seen.at(-1)).toBe("as it was"));
});

test("with a link nothing that was is shown, not for a moment: a form would begin with it", async () => {
  await visitKept();
  const { of, seen } = opened(() => new Promise((done) => setTimeout(() => done("as it is"), 20)));
  of();
  await soon(() => expect(seen.at(-1)).toBe("as it is"));
  expect(seen).not.toContain("as it was");
});

test.each([
  ["another person", () => signedIn("kit")],
  ["other units", () => memory.set("hevrin.units", "us")],
])("%s is not shown it", async (_, change) => {
  await visitKept();
  change();
  const { of, seen } = opened(noLink);
  of();
  await settled();
  expect(seen).toEqual([]);
});

test("what is too old, and what is of people, is not kept", async () => {
  await visitKept(Date.now() - oldest);
  await visit(Date.now(), ["people"]);
  const { of, seen } = opened(noLink);
  of();
  of(["people"]);
  await settled();
  expect(seen).toEqual([]);
});

test("what the program refuses is not shown as it was", async () => {
  await visitKept();
  const { of, seen } = opened(() => Promise.reject(new Refused({ title: "Gone", status: 404, detail: "gone" })));
  of();
  await settled();
  expect(seen).toEqual([]);
});

test("a sign-out leaves nothing", async () => {
  signedIn("kit");
  await visitKept();
  signedIn("");
  await soon(async () => expect(await kept()).toBeUndefined());
});

test("the oldest go first", async () => {
  const page = (n: number) => ({ key: `${n}`, data: n, at: n, person: "", units: "metric", shape: "" });
  for (let n = 0; n < mostPages + 5; n++) await pages.put(page(n));
  await pages.trim(mostPages);
  expect(await pages.get("4")).toBeUndefined();
  expect(await pages.get("5")).toBeDefined();
});
