/**
 * Where letters of the outbox lie on the device until the yard has them (IndexedDB), and what an older version of the
 * program left there.
 */
import type { IDBPDatabase } from "idb";
import { database } from "./database";
import { isRecord, memory } from "./memory";

export interface Letter {
  id: string;
  path: string;
  body: Record<string, unknown>;
  /** What it says, in words, while it waits. */
  label: string;
  /** A photo that goes with it, in place of photo.data. */
  photo?: Blob;
  /** Who was signed in when it was tapped: it is sent as theirs, or asked about. */
  person?: { id: string; name: string };
  /** It stepped aside: why, so that a person can send it again or drop it. */
  aside?: string;
  /** It stepped aside only because somebody else was signed in: it goes by itself once its person is back. */
  theirs?: boolean;
  /** The form that made it stays open with what was typed when it is refused: the letter need not be kept then. */
  form?: boolean;
}

/** Where letters lie, in the order of tapping. */
export interface Letters {
  /** Fails where the device has closed the place a moment ago. */
  all(): Promise<Letter[]>;
  /** Fails where the device keeps nothing more: the letter is gone with the page then. */
  add(letter: Letter): Promise<void>;
  /** Changes a letter that is still there, or lets it go, in one step: two who do so at once do not undo each other. */
  change(id: string, to: (l: Letter) => Letter | undefined): Promise<void>;
  /** Calls then whenever the device has emptied the place under the open page. */
  onGone?(then: () => void): void;
}

/**
 * Until IndexedDB has a letter, which takes a moment, it is jotted down where that is done at once: a page that is
 * reloaded or killed in that moment loses no tap. A photo is too big for it.
 */
function jotter(under: string) {
  const names = (id: string) => memory.names(under).filter((name) => name.endsWith("." + id));
  return {
    all: () => memory.names(under).flatMap((name) => memory.read(name, isLetter) ?? []),
    /** False where it would not outlive the page. */
    add(l: Letter): boolean {
      // names are sorted: the order of tapping, also where the device's clock is set back between two
      const last = Number(memory.names(under).at(-1)?.slice(under.length).split(".")[0] ?? 0);
      const name = `${under}${Math.max(Date.now(), last + 1)}.${l.id}`;
      if (l.photo) return false;
      if (memory.write(name, l)) return true;
      memory.set(name, undefined);
      return false;
    },
    change(id: string, to: (l: Letter) => Letter | undefined) {
      for (const name of names(id)) {
        const letter = memory.read(name, isLetter);
        const next = letter && to(letter);
        memory.set(name, next && JSON.stringify(next));
      }
    },
  };
}

/** Opens where letters lie, and tells when it was closed. */
type Opener = (gone: () => void) => () => Promise<IDBPDatabase>;

/** Letters in IndexedDB, and those that are not yet there. */
export function storedLetters(opener: Opener = openLetters, under = "hevrin.outbox."): Letters {
  const jots = jotter(under);
  let told: () => void = () => undefined;
  const base = opener(() => told());
  return {
    onGone: (then) => (told = then),
    async all() {
      const waiting = jots.all();
      const stored = await base().then(
        (b) => b.getAll("letters") as Promise<Letter[]>,
        (): Letter[] => [], // refused: what was jotted down is all
      );
      return [...stored, ...waiting.filter((l) => !stored.some((s) => s.id === l.id))];
    },
    async add(l) {
      const jotted = jots.add(l);
      try {
        await (await base()).add("letters", l);
      } catch (e) {
        if (jotted) return; // it lies there, and is found there
        throw e;
      }
      jots.change(l.id, () => undefined);
    },
    async change(id, to) {
      jots.change(id, to);
      const tx = (await base()).transaction("letters", "readwrite");
      for (let at = await tx.store.openCursor(); at; at = await at.continue()) {
        const letter = at.value as Letter;
        if (letter.id !== id) continue;
        const next = to(letter);
        await (next ? at.update(next) : at.delete());
      }
      await tx.done;
    },
  };
}

export const openLetters = (gone: () => void, name = "hevrin") =>
  database(name, (db) => void db.createObjectStore("letters", { autoIncrement: true }), gone);

const isLetter = (x: unknown): x is Letter =>
  isRecord(x) && typeof x.id === "string" && typeof x.path === "string" && isRecord(x.body);

/** Letters that an older version of the program left in the device's storage, by today's addresses. */
export async function takeOver(letters: Letters) {
  const old = memory.read("hevrin.outbox", (x): x is unknown[] => Array.isArray(x));
  for (const l of old ?? []) {
    if (!isLetter(l)) continue;
    await letters.add({ ...l, path: l.path.replace(/^\/shelf\//, "/inventory/").replace(/^\/book\//, "/methods/") });
  }
  if (old) memory.set("hevrin.outbox", undefined);
}

/** Letters of a page alone: what is practised does not outlive it. */
export function pageLetters(): Letters {
  let list: Letter[] = [];
  return {
    all: () => Promise.resolve(list),
    add: (l) => Promise.resolve(void (list = [...list, l])),
    change: (id, to) => Promise.resolve(void (list = list.flatMap((l) => (l.id === id ? (to(l) ?? []) : [l])))),
  };
}
