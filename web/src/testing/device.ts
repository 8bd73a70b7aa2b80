/** A device in memory for tests of the outbox: its letters, its tabs, and what a link does. */
import "fake-indexeddb/auto";
import { vi } from "vitest";
import { openLetters, storedLetters, type Letter, type Letters } from "../api/letters";
import { Outbox, type Surroundings } from "../api/outbox";

export const letter = (id: string, job = "j"): Letter => ({
  id,
  path: `/jobs/${job}/entries/${id}`,
  body: { kind: "note" },
  label: id,
});
export const answer = (status: number, body: unknown = {}) => new Response(JSON.stringify(body), { status });
/** What comes by itself, on a slow machine too. */
export const soon = (holds: () => unknown) => vi.waitFor(holds, { timeout: 30_000 });
export const nap = () => new Promise<void>((done) => setTimeout(done, 1));
export const no = (status: number, detail: string, type?: string) =>
  answer(status, { title: "t", status, detail, type });

/** A promise that is settled from outside. */
export function later<T>() {
  const out = {} as { promise: Promise<T>; resolve: (t: T) => void };
  out.promise = new Promise((done) => (out.resolve = done));
  return out;
}

export type Send = (path: string, body: unknown) => Promise<Response>;

export const open = (name: string) => (gone: () => void) => openLetters(gone, name);
/** The device as it stands: what lies on it, who is open on it, who holds its lock. */
export const device = {
  base: 0,
  letters: undefined as unknown as Letters,
  channels: [] as { onmessage: ((e: MessageEvent) => void) | null }[],
  lock: Promise.resolve() as Promise<unknown>,
};

/** A tab of the device: all share the letters, the lock, and hear each other. */
export function tab(send: Send, own: Letters = device.letters, person?: Surroundings["person"]) {
  const me: { onmessage: ((e: MessageEvent) => void) | null; postMessage: (data: unknown) => void } = {
    onmessage: null,
    postMessage: (data) => {
      for (const c of device.channels) if (c !== me) c.onmessage?.({ data } as MessageEvent);
    },
  };
  device.channels.push(me);
  const alone = (work: () => Promise<void>) => {
    const turn = device.lock.then(work);
    device.lock = turn.catch(() => undefined);
    return turn;
  };
  return new Outbox({ letters: own, send, sleep: nap, alone, channel: me, person });
}

export const stored = async () => (await device.letters.all()).map((l) => l.id);

/** A device of its own: what an earlier one held is gone with it. */
export function freshDevice() {
  device.base++;
  device.letters = storedLetters(open(`t${device.base}`), `t${device.base}.`);
  device.channels = [];
  device.lock = Promise.resolve();
  localStorage.clear();
}
