import "fake-indexeddb/auto";
import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { afterEach, beforeEach, expect, test } from "vitest";
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

const settled = () => new Promise((done) => setTimeout(done, 30));
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
  opened(() => Promise.resolve("as it was"), at).of(key);
  await settled();
}

test("what was read with a link is there without one, and the newest wins where there is one", async () => {
  await visit();
  const without = opened(noLink);
  const o = without.of();
  await settled();
  expect(without.seen.at(-1)).toBe("as it was");
  expect(o.getCurrentResult().isError).toBe(true); // the screen says that it is not of now
  const again = opened(() => Promise.resolve("as it is"));
  again.of();
  await settled();
  expect(again.seen.at(-1)).toBe("as it is");
});

test("with a link nothing that was is shown, not for a moment: a form would begin with it", async () => {
  await visit();
  const { of, seen } = opened(() => new Promise((done) => setTimeout(() => done("as it is"), 20)));
  of();
  await settled();
  await settled();
  expect(seen).not.toContain("as it was");
  expect(seen.at(-1)).toBe("as it is");
});

test.each([
  ["another person", () => signedIn("kit")],
  ["other units", () => memory.set("hevrin.units", "us")],
])("%s is not shown it", async (_, change) => {
  await visit();
  change();
  const { of, seen } = opened(noLink);
  of();
  await settled();
  expect(seen).toEqual([]);
});

test("what is too old, and what is of people, is not kept", async () => {
  await visit(Date.now() - oldest);
  await visit(Date.now(), ["people"]);
  const { of, seen } = opened(noLink);
  of();
  of(["people"]);
  await settled();
  expect(seen).toEqual([]);
});

test("what the program refuses is not shown as it was", async () => {
  await visit();
  const { of, seen } = opened(() => Promise.reject(new Refused({ title: "Gone", status: 404, detail: "gone" })));
  of();
  await settled();
  expect(seen).toEqual([]);
});

test("a sign-out leaves nothing", async () => {
  signedIn("kit");
  await visit();
  expect(await pages.get(JSON.stringify(job))).toBeDefined();
  signedIn("");
  await settled();
  expect(await pages.get(JSON.stringify(job))).toBeUndefined();
});

test("the oldest go first", async () => {
  const page = (n: number) => ({ key: `${n}`, data: n, at: n, person: "", units: "metric", shape: "" });
  for (let n = 0; n < mostPages + 5; n++) await pages.put(page(n));
  await pages.trim(mostPages);
  expect(await pages.get("4")).toBeUndefined();
  expect(await pages.get("5")).toBeDefined();
});
