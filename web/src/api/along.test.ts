import "fake-indexeddb/auto";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { along, most } from "./along";
import { memory } from "./memory";

const answers = new Map<string, string>();
const given = (id: string, name: string, pad = 0) =>
  answers.set(
    `/api/v1/craft/${id}/along`,
    JSON.stringify({ at: "2026-05-04T09:00:00Z", craft: { Name: name }, photos: null, pad: "x".repeat(pad) }),
  );
const signedIn = (id: string) =>
  memory.write("hevrin.session", { mode: "yard", signed_in: true, rights: [], tiles: [], person: { id, name: id } });

beforeEach(async () => {
  localStorage.clear();
  answers.clear();
  await along.clear();
  vi.stubGlobal(
    "Request",
    class {
      readonly method = "GET";
      readonly signal = new AbortController().signal;
      constructor(readonly url: string) {}
      clone() {
        return this;
      }
    },
  );
  vi.stubGlobal(
    "fetch",
    vi.fn((r: { url: string }) => {
      const body = answers.get(r.url);
      return Promise.resolve(new Response(body ?? "{}", { status: body ? 200 : 404 }));
    }),
  );
});
afterEach(() => void vi.unstubAllGlobals());

test("what is taken along is listed, the last opened first, and is there as it was given", async () => {
  given("a", "Sallow Ebb");
  given("b", "Wick Ness");
  await along.take("a", true);
  await along.take("b");
  expect(along.snapshot().map((c) => [c.name, c.pinned])).toEqual([
    ["Wick Ness", false],
    ["Sallow Ebb", true],
  ]);
  expect(await along.contents()).toHaveLength(2);
  const before = along.version();
  await along.take("a"); // brought up to date, it stays pinned
  expect(along.snapshot()[0]).toMatchObject({ name: "Sallow Ebb", pinned: true });
  expect(along.version()).not.toBe(before);
});

test("the oldest that nobody pinned goes first when there is too much", async () => {
  given("pinned", "Pinned", most * 0.6);
  given("old", "Old", most * 0.6);
  given("new", "New", most * 0.6);
  for (const id of ["pinned", "old", "new"]) {
    await along.take(id, id === "pinned");
  }
  expect(along.snapshot().map((c) => c.id)).toEqual(["new", "pinned"]);
  expect(await along.contents()).toHaveLength(2);
});

test("what was not given, or does not fit, is told, and what was there stays", async () => {
  given("a", "Sallow Ebb");
  await along.take("a", true);
  await expect(along.take("gone")).rejects.toThrow("did not give it");
  answers.set("/api/v1/craft/a/along", "broken off");
  await expect(along.take("a")).rejects.toThrow();
  expect(along.snapshot()).toHaveLength(1);
  expect((await along.contents())[0]).toContain("Sallow Ebb");
});

test("what was sent of late is remembered in order, whatever is taken along, and forgotten once it is old", async () => {
  const letter = (id: string) => ({ id, path: `/jobs/j/entries/${id}`, body: {}, label: id });
  given("a", "Sallow Ebb");
  const now = vi.spyOn(Date, "now");
  const begun = Date.parse("2026-05-04T09:00:00Z");
  for (const [minute, id] of [
    [0, "first"],
    [1, "second"],
    [9, "third"],
  ] as const) {
    now.mockReturnValue(begun + minute * 60_000);
    await along.remember(letter(id));
  }
  await along.take("a");
  expect((await along.sent()).map((l) => l.id)).toEqual(["first", "second", "third"]);
  now.mockReturnValue(begun + 11 * 60_000 - 1);
  await along.take("a");
  expect((await along.sent()).map((l) => l.id)).toEqual(["second", "third"]);
  await along.clear();
  expect(await along.sent()).toEqual([]);
  now.mockRestore();
});

test("the order stays that of opening and of sending when the device's clock stands still or is set back", async () => {
  for (const id of ["z", "a", "m"]) given(id, id);
  const now = vi.spyOn(Date, "now");
  for (const [at, id] of [
    [5_000, "z"],
    [5_000, "a"],
    [1_000, "m"],
  ] as const) {
    now.mockReturnValue(at);
    await along.take(id);
    await along.remember({ id, path: `/jobs/j/entries/${id}`, body: {}, label: id });
  }
  now.mockRestore();
  expect(along.snapshot().map((c) => c.id)).toEqual(["m", "a", "z"]);
  expect((await along.sent()).map((l) => l.id)).toEqual(["z", "a", "m"]);
});

test("what one person took along is not another's", async () => {
  signedIn("kit");
  given("a", "Sallow Ebb");
  await along.take("a", true);
  signedIn("ide");
  expect(along.snapshot()).toEqual([]);
  expect(await along.contents()).toEqual([]);
  signedIn("kit");
  expect(along.snapshot()).toHaveLength(1);
  await along.letGo(["a"]);
  expect(await along.contents()).toEqual([]);
});

test("what an older program gave is taken along anew, and only that; what cannot be read is counted", async () => {
  const of = (id: string, catalogue: string) =>
    answers.set(
      `/api/v1/craft/${id}/along`,
      JSON.stringify({ at: "2026-05-04T09:00:00Z", craft: { Name: id }, photos: [], form: 1, catalogue }),
    );
  of("old", "2025.1");
  of("new", "2026.11");
  await along.take("old", true);
  await along.take("new");
  of("old", "2026.11");
  answers.delete("/api/v1/craft/new/along");
  await along.renew("2026.11");
  expect(along.snapshot().map((c) => [c.id, c.program, c.pinned])).toEqual([
    ["new", "1 2026.11", false],
    ["old", "1 2026.11", true], // brought up to date, which is not opening it
  ]);
  await along.renew("2027.1"); // it is not given: it stays as it is
  expect(along.snapshot()).toHaveLength(2);
  expect(along.howManyUnread()).toBe(0);
  along.unread(2);
  expect(along.howManyUnread()).toBe(2);
  along.unread(0);
  expect(along.howManyUnread()).toBe(0);
});
