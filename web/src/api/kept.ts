/**
 * Pages on the device: what was asked for last of the work in hand is kept (IndexedDB), so that it can be read and
 * worked on where no link is. It is shown only once the program did not answer: a form that begins with what was would
 * otherwise be filled with what another has changed since.
 */
import type { Query, QueryClient, QueryKey } from "@tanstack/react-query";
import type { DBSchema } from "idb";
import { database } from "./database";
import { link } from "./link";
import { memory } from "./memory";
import { Refused, unitsName } from "./client";
import { session } from "./session";

/** Made by the build: two programs with the same one give answers of the same form. */
declare const __SHAPE__: string;

/** An answer as it was, for whom, in whose units, and in which form. */
export interface Page {
  key: string;
  data: unknown;
  at: number;
  person: string;
  units: string;
  shape: string;
}

/** Where pages lie. */
export interface Pages {
  get(key: string): Promise<Page | undefined>;
  put(page: Page): Promise<void>;
  /** Lets the oldest go that are more than most. */
  trim(most: number): Promise<void>;
  clear(): Promise<void>;
}

/** What is worth keeping: the work in hand and what it leans on; nothing of people, devices or links. */
const kept = new Set([
  "catalogue",
  "drawings",
  "calculators",
  "types",
  "yard",
  "craft",
  "engine",
  "job",
  "record",
  "state",
  "due",
  "inventory",
  "methods",
  "hindsight",
]);

/** How many are kept: some thirty boats with their engines and open jobs; each is 5 to 150 kB. */
export const mostPages = 120;
/** How old a page may be, ms: older ones mislead more than they help. */
export const oldest = 30 * 24 * 60 * 60_000;

const nameOf = (key: QueryKey) => JSON.stringify(key);
const isKept = (key: QueryKey) => kept.has(String(key[0]));

const surroundings = () => ({
  person: session.snapshot()?.person?.id ?? "",
  units: memory.text(unitsName) ?? "metric",
  shape: __SHAPE__,
});

/** Whether a page is of this person, in these units, of a program whose answers have this form, and not too old. */
export function fits(page: Page, now: number): boolean {
  const is = surroundings();
  return page.person === is.person && page.units === is.units && page.shape === is.shape && now - page.at < oldest;
}

/** Keeps pages from now on, and gives them back where a screen asks; the return ends it. */
export function keepPages(cache: QueryClient, pages: Pages, now = Date.now): () => void {
  let since = 0;
  const give = async (query: Query) => {
    const page = await pages.get(nameOf(query.queryKey)).catch(() => undefined);
    // an answer that came meanwhile is newer
    if (!page || query.state.data !== undefined || !fits(page, now())) return;
    // an error that came meanwhile stays: the screen says that this is not of now
    const status = query.state.status === "error" ? "error" : "success";
    // asked for all the same, also what else holds as long as the page is open
    query.setState({ data: page.data, dataUpdatedAt: page.at, status, isInvalidated: true });
  };
  const keep = async (query: Query) => {
    if (link.down()) return; // the phone's own program said it
    const page = { key: nameOf(query.queryKey), data: query.state.data, at: now(), ...surroundings() };
    await pages.put(page).catch(() => undefined); // full or refused: it is only not kept
    if (++since % 20 === 0) await pages.trim(mostPages).catch(() => undefined);
  };
  let person = session.snapshot()?.person?.id;
  const stopSession = session.subscribe(() => {
    const is = session.snapshot();
    if (is?.mode === "yard" && (!is.signed_in || is.person?.id !== person)) void pages.clear().catch(() => undefined);
    person = is?.person?.id;
  });
  const stopCache = cache.getQueryCache().subscribe((e) => {
    if (!isKept(e.query.queryKey)) return;
    if (e.type !== "updated") return;
    const { action } = e;
    if (action.type === "success") void keep(e.query);
    // what the program refuses, as a job that was taken away, is an answer
    else if ((action.type === "failed" || action.type === "error") && !(action.error instanceof Refused))
      void give(e.query);
  });
  return () => {
    stopSession();
    stopCache();
  };
}

interface Stored extends DBSchema {
  pages: { key: string; value: Page; indexes: { at: number } };
}

/** The device's own place for pages; on the home screen, with a word to the browser that it is worth keeping. */
export function devicePages(): Pages {
  const base = database<Stored>(
    "hevrin.pages",
    (db) => void db.createObjectStore("pages", { keyPath: "key" }).createIndex("at", "at"),
  );
  // asked of who put it on the home screen alone: some browsers put the question to the person
  const installed = typeof matchMedia === "function" && matchMedia("(display-mode: standalone)").matches;
  if (installed) void navigator.storage?.persist?.().catch(() => undefined);
  return {
    get: async (key) => (await base()).get("pages", key),
    put: async (page) => void (await (await base()).put("pages", page)),
    clear: async () => (await base()).clear("pages"),
    trim: async (most) => {
      const at = (await base()).transaction("pages", "readwrite").store;
      let over = (await at.count()) - most;
      for (let c = await at.index("at").openCursor(); c && over > 0; c = await c.continue(), over--) await c.delete();
    },
  };
}
