/**
 * What is on the phone: craft taken along, each with its engines, their state, jobs, baselines and rounds, the yard's
 * methods and parts, so that the phone's own program goes on where no link is (IndexedDB). What is opened is taken
 * along by itself; what is pinned stays until it is let go.
 */
import type { DBSchema } from "idb";
import { database } from "./database";
import type { Letter } from "./letters";
import { asked } from "./link";
import { isRecord, memory } from "./memory";
import { session } from "./session";

/** One craft on the phone. */
export interface Craft {
  id: string;
  name: string;
  /** When it was last together with the yard, ISO. */
  at: string;
  /** When it was opened here last, ms. */
  opened: number;
  bytes: number;
  pinned: boolean;
  person: string;
  /** Form and catalogue of the program that gave it: another one's cannot be read on this device. */
  program?: string;
}

interface Stored extends DBSchema {
  craft: { key: string; value: { id: string; raw: string } };
  sent: { key: string; value: { id: string; letter: Letter; at: number } };
}

const name = "hevrin.along";
/** How much is kept of what nobody pinned, bytes: the oldest goes first. */
export const most = 40 * 1024 * 1024;
/** Photographs that belong to it lie beside the shell, by their address. */
export const photosCache = "hevrin.photos";
export const photoAt = (id: string) => `/api/v1/photos/${id}`;

const isList = (x: unknown): x is Craft[] =>
  Array.isArray(x) && x.every((c) => isRecord(c) && typeof c.id === "string");

const base = database<Stored>(name, (db) => {
  db.createObjectStore("craft", { keyPath: "id" });
  db.createObjectStore("sent", { keyPath: "id" });
});
/** How long what was sent is remembered while there is a link, ms: by then it was taken along. */
const sentFor = 10 * 60_000;

let held: { text?: string; list: Craft[] } = { list: [] };

const person = () => session.snapshot()?.person?.id ?? "";

/** The craft of whoever uses the device, the last opened first. */
function snapshot(): Craft[] {
  const text = memory.text(name) + person();
  if (text !== held.text) {
    const all = memory.read(name, isList) ?? [];
    held = { text, list: all.filter((c) => c.person === person()).sort((a, b) => b.opened - a.opened) };
  }
  return held.list;
}

function write(change: (list: Craft[]) => Craft[]) {
  memory.write(name, change(memory.read(name, isList) ?? []));
}

/** Changes whenever something was taken along anew or let go, in whichever tab. */
const version = () => memory.text(name + ".version") ?? "";
const changed = () => void memory.set(name + ".version", `${Date.now()}.${Math.random()}`);

/** Why something could not be taken along. */
export class NotTaken extends Error {}

interface Given {
  at: string;
  craft: { Name: string };
  photos: string[] | null;
  form?: number;
  catalogue?: string;
}
const programOf = (form = 0, catalogue = "") => `${form} ${catalogue}`;

/** A time later than all of these, ms, whatever the device's clock says: what came later stays later. */
const later = (than: number[]) => than.reduce((t, x) => Math.max(t, x + 1), Date.now());

/** Takes a craft along, as it stands now, since it was opened; pinned, it stays until it is let go. */
async function take(id: string, pin?: boolean): Promise<void> {
  await bring(id, pin, later((memory.read(name, isList) ?? []).map((c) => c.opened)));
}

/** Brings a craft here, as it stands now. */
async function bring(id: string, pin: boolean | undefined, opened: number): Promise<void> {
  const answer = await asked(new Request(`/api/v1/craft/${id}/along`));
  if (!answer.ok) throw new NotTaken("The program did not give it along.");
  const raw = await answer.text();
  const { at, craft, photos, form, catalogue } = JSON.parse(raw) as Given;
  try {
    await (await base()).put("craft", { id, raw });
  } catch {
    throw new NotTaken("There is no room for it on this device: let something else go, under You.");
  }
  const was = snapshot().find((c) => c.id === id);
  const is = {
    id,
    name: craft.Name,
    at,
    opened,
    bytes: raw.length,
    person: person(),
    program: programOf(form, catalogue),
  };
  write((list) => [...list.filter((c) => c.id !== id), { ...is, pinned: pin ?? was?.pinned ?? false }]);
  changed();
  await forgetSent();
  await takePhotos(photos ?? []);
  await trim();
}

/** Takes along anew what an older program gave, now that there is one with this catalogue. */
async function renew(catalogue: string): Promise<void> {
  for (const c of snapshot())
    if (c.program?.split(" ").slice(1).join(" ") !== catalogue)
      await bring(c.id, undefined, c.opened).catch(() => undefined); // it stays as it is
}

const unreadName = name + ".unread";
/** Notes how many of the craft here the phone's own program could not read; another program gave them. */
const unread = (n: number) => void memory.set(unreadName, n > 0 ? String(n) : undefined);
const howManyUnread = () => Number(memory.text(unreadName) ?? 0);

/** Remembers what was sent, until it is sure to be in what is taken along: the link may go before that. */
async function remember(letter: Letter): Promise<void> {
  const b = await base();
  const all = await b.getAll("sent").catch(() => []);
  await b.put("sent", { id: letter.id, letter, at: later(all.map((s) => s.at)) });
  sentChanged();
}

const sentName = name + ".sent";
/** Changes whenever something was sent, in whichever tab: what was sent is read again then only. */
const sentVersion = () => memory.text(sentName) ?? "";
const sentChanged = () => void memory.set(sentName, `${Date.now()}.${Math.random()}`);
let known: { at?: string; letters: Letter[] } = { letters: [] };

/** What was sent of late, in order. */
async function sent(): Promise<Letter[]> {
  const at = sentVersion();
  if (known.at !== at) {
    const all = await base()
      .then((b) => b.getAll("sent"))
      .catch(() => undefined);
    if (!all) return [];
    known = { at, letters: all.sort((a, b) => a.at - b.at).map((s) => s.letter) };
  }
  return known.letters;
}

async function forgetSent() {
  const b = await base();
  for (const s of await b.getAll("sent").catch(() => []))
    if (Date.now() - s.at > sentFor) await b.delete("sent", s.id).catch(() => undefined);
  sentChanged();
}

/** Keeps a picture that was taken here, so that it is shown before the yard has it. */
export async function keepPhoto(id: string, photo: Blob) {
  if (typeof caches === "undefined") return;
  const answer = new Response(photo, { headers: { "Content-Type": photo.type } });
  await caches
    .open(photosCache)
    .then((c) => c.put(photoAt(id), answer))
    .catch(() => undefined); // full: it is shown once it was sent
}

async function takePhotos(ids: string[]) {
  if (typeof caches === "undefined") return;
  try {
    const cache = await caches.open(photosCache);
    for (const id of ids) if (!(await cache.match(photoAt(id)))) await cache.add(photoAt(id));
  } catch {
    // full, or the link went: they are shown where there is one
  }
}

/** What is on the phone, as it was given along. */
async function contents(): Promise<string[]> {
  const mine = new Set(snapshot().map((c) => c.id));
  const all = await (await base()).getAll("craft").catch(() => []);
  return all.filter((c) => mine.has(c.id)).map((c) => c.raw);
}

async function letGo(ids: string[]) {
  if (ids.length === 0) return;
  write((list) => list.filter((c) => !ids.includes(c.id)));
  changed();
  const b = await base();
  for (const id of ids) await b.delete("craft", id).catch(() => undefined);
}

/** Lets the oldest go that nobody pinned, until what is left fits. */
async function trim() {
  let bytes = 0;
  const over = snapshot().filter((c) => !c.pinned && (bytes += c.bytes) > most);
  await letGo(over.map((c) => c.id));
}

/** Lets everything go: somebody else uses the device now. */
async function clear() {
  memory.set(name, undefined);
  changed();
  const b = await base();
  for (const store of ["craft", "sent"] as const) await b.clear(store).catch(() => undefined);
  sentChanged();
  if (typeof caches !== "undefined") await caches.delete(photosCache).catch(() => undefined);
}

function pin(id: string, is: boolean) {
  write((list) => list.map((c) => (c.id === id ? { ...c, pinned: is } : c)));
}

export const along = {
  subscribe: (l: () => void) => memory.subscribe(name, l),
  snapshot,
  version,
  take,
  renew,
  unread,
  howManyUnread,
  subscribeUnread: (l: () => void) => memory.subscribe(unreadName, l),
  pin,
  letGo,
  contents,
  remember,
  sent,
  clear,
};
