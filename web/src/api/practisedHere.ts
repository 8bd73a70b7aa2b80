/**
 * Practice without a link: a worker of its own runs the phone's program, which draws the same engines from the same
 * codes. What was practised is kept on the device (IndexedDB), and stays there: the yard never sees it.
 */
import { database } from "./database";
import { clock } from "./clock";
import { practiceBase } from "./practiceBase";
import type { Asked, Told } from "./phone.worker";

const store = "tries";
const kept = database(practiceBase, (db) => void db.createObjectStore(store));

let worker: Worker | undefined;
let number = 0;
const open = new Map<number, { done: (t: Told) => void; fail: (e: Error) => void }>();

function running(): Worker {
  if (worker) return worker;
  const w = new Worker(new URL("./phone.worker.ts", import.meta.url), { type: "module" });
  w.onmessage = (e: MessageEvent<Told>) => {
    const o = open.get(e.data.n);
    open.delete(e.data.n);
    if (e.data.failed) o?.fail(new Error(e.data.failed));
    else o?.done(e.data);
  };
  w.onerror = () => {
    worker = undefined;
    for (const o of open.values()) o.fail(new Error("the program on this device ended"));
    open.clear();
  };
  return (worker = w);
}

function call(asked: Omit<Asked, "n">): Promise<Told> {
  const w = running();
  const n = ++number;
  return new Promise((done, fail) => {
    open.set(n, { done, fail });
    w.postMessage({ n, ...asked } satisfies Asked);
  });
}

let ready: Promise<unknown> | undefined;
/** What was practised before, in the worker again; once. */
const together = () =>
  (ready ??= kept()
    .then((db) => db.get(store, "all") as Promise<string | undefined>)
    .catch(() => undefined) // a device that keeps nothing
    .then((text) => (text ? call({ restore: text }) : undefined)));

/** One question at a time: what is kept is as it stands after each. */
let turn: Promise<unknown> = Promise.resolve();

/** What the program on this device says to a request of practice. */
export function practisedHere(request: Request): Promise<Response> {
  const answer = turn.then(() => answerTo(request));
  turn = answer.catch(() => undefined);
  return answer;
}

async function answerTo(request: Request): Promise<Response> {
  await together();
  const url = new URL(request.url);
  const path = url.pathname.replace("/api/v1", "");
  const body: unknown = request.method === "GET" ? undefined : await request.json();
  const units = request.headers.get("Hevrin-Units") ?? "metric";
  const at = new Date(clock.now()).toISOString();
  const t = await call({
    request: { method: request.method, path, query: Object.fromEntries(url.searchParams), body, units, at },
  });
  if (request.method !== "GET" && (t.status ?? 500) < 400) {
    const tries = await call({ tries: true });
    await kept()
      .then((db) => db.put(store, new TextDecoder().decode(tries.body), "all"))
      .catch(() => undefined); // full: it lasts as long as the page
  }
  return new Response(t.body, { status: t.status ?? 500, headers: { "Content-Type": t.type ?? "" } });
}
