/**
 * The phone's own program, in a worker: it answers what the yard's would, from what was taken along and what was tapped
 * since, where no link is. It is fetched after the first screen, started when it is needed, and let go when nobody
 * looks.
 */
import { along, keepPhoto } from "./along";
import { Refused } from "./client";
import { clock } from "./clock";
import { devicePages, fits } from "./kept";
import { newID } from "./ids";
import { link } from "./link";
import { memory } from "./memory";
import type { Letter } from "./letters";
import { bodyOf, outbox, type Outcome } from "./outbox";
import type { Asked, Told } from "./phone.worker";
import { session } from "./session";
import { writer } from "./writer";
import type { JobEntry } from "./writes";

const base = "/api/v1";
/** How long an answer is waited for before the worker is taken for dead, ms. */
const patience = 30_000;
/** How long the page is hidden before the worker is let go, ms: a phone in a pocket saves its battery. */
const sleepAfter = 60_000;

export interface Reply {
  status: number;
  type: string;
  body: Uint8Array<ArrayBuffer>;
}

let worker: Worker | undefined;
let is: "none" | "starting" | "ready" = "none";
let number = 0;
const open = new Map<number, { done: (t: Told) => void; fail: (e: Error) => void }>();

/** What the worker knows: which version of what was taken along, and which letters, in order. */
let taken: string | undefined;
let applied: string[] = [];
/** Letters that are answered while they are still being stored. */
let early: Letter[] = [];
/** The newest answers, until whoever waits for one has it. */
const replies = new Map<string, Reply>();
/** Letters whose answer is waited for at this moment. */
const wanted = new Set<string>();
/** So many are kept that nobody waits for yet: a job is long, and each is a whole page. */
const mostReplies = 16;

function keepReply(id: string, reply: Reply) {
  replies.set(id, reply);
  const spare = [...replies.keys()].filter((k) => !wanted.has(k));
  for (const old of spare.slice(0, -mostReplies)) replies.delete(old);
}

function dead(why: string) {
  worker?.terminate();
  worker = undefined;
  is = "none";
  link.goesOn(false);
  taken = undefined;
  applied = [];
  replies.clear();
  for (const o of open.values()) o.fail(new Error(why));
  open.clear();
}

function started(): Worker {
  if (worker) return worker;
  is = "starting";
  const w = new Worker(new URL("./phone.worker.ts", import.meta.url), { type: "module" });
  w.onmessage = (e: MessageEvent<Told>) => {
    const o = open.get(e.data.n);
    open.delete(e.data.n);
    if (e.data.failed) o?.fail(new Error(e.data.failed));
    else o?.done(e.data);
  };
  w.onerror = () => dead("the program on this device ended");
  return (worker = w);
}

function call(asked: Omit<Asked, "n">): Promise<Told> {
  const w = started();
  const n = ++number;
  return new Promise((done, fail) => {
    const late = setTimeout(() => dead("the program on this device does not answer"), patience);
    const end = <A>(then: (a: A) => void) => {
      return (a: A) => {
        clearTimeout(late);
        then(a);
      };
    };
    open.set(n, { done: end(done), fail: end(fail) });
    w.postMessage({ n, ...asked } satisfies Asked);
  });
}

const who = () => {
  const p = session.snapshot();
  return p?.mode === "yard" && p.person ? p.person : undefined;
};

/** A request as the program takes it: of this moment, by whoever is signed in. */
const requestOf = (method: string, path: string, query: Record<string, string>, body: unknown, units: string) => ({
  method,
  path,
  query,
  body,
  units,
  at: new Date(clock.now()).toISOString(),
  who: who(),
});

async function ask(...asked: Parameters<typeof requestOf>): Promise<Reply> {
  const t = await call({ request: requestOf(...asked) });
  return { status: t.status ?? 500, type: t.type ?? "", body: t.body ?? new Uint8Array() };
}

/** The units that the person reads in. */
const units = () => memory.text("hevrin.units") ?? "metric";

/** Brings the worker to what is on the phone and to what was tapped since: only what is new, where that is enough. */
async function together(next?: Letter): Promise<void> {
  const mine = who()?.id;
  const waiting = outbox.snapshot().waiting.filter((l) => l.person?.id === mine);
  // what was sent a moment ago may not be in what was taken along before it: the same entry counts once
  const sent = (await along.sent()).filter((l) => l.person?.id === mine && !waiting.some((w) => w.id === l.id));
  const letters = [...sent, ...waiting];
  if (next) early.push(next);
  early = link.down() ? early.filter((l) => !letters.some((x) => x.id === l.id)) : [];
  letters.push(...early);
  const goesOn = applied.every((id, i) => letters[i]?.id === id);
  if (taken !== along.version() || !goesOn) {
    const version = along.version();
    const { wrong } = await call({ take: await along.contents() });
    along.unread(wrong?.length ?? 0);
    [taken, applied] = [version, []];
    replies.clear();
  }
  for (const l of letters.slice(applied.length)) {
    keepReply(l.id, await ask("PUT", l.path, {}, await bodyOf(l), units()));
    applied.push(l.id);
  }
  if (is !== "ready") {
    is = "ready";
    link.goesOn(true);
  }
}

let turn: Promise<unknown> = Promise.resolve();
/** One thing after the other: an answer is of what came before it. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const next = turn.then(work, work);
  turn = next.catch(() => undefined);
  return next;
}

/**
 * Statuses of what the phone's program does not know, or of what went wrong in it: the yard's is asked, or what was
 * kept is shown.
 */
const notHere = (status: number) => status === 404 || status >= 500;

/** Lists of the whole yard: what is on the phone stands in the place of what was kept of it. */
const wholeYard: Record<string, { list: string; id: (x: Record<string, Record<string, unknown>>) => unknown }> = {
  "/yard": { list: "craft", id: (x) => x.craft?.id },
  "/due": { list: "engines", id: (x) => x.engine?.id },
};

async function merged(path: string, reply: Reply): Promise<Reply> {
  const whole = wholeYard[path];
  if (!whole || reply.status !== 200) return reply;
  const page = await devicePages()
    .get(JSON.stringify([path.slice(1)]))
    .catch(() => undefined);
  if (!page || !fits(page, Date.now())) return reply;
  type Row = Record<string, Record<string, unknown>>;
  const own = JSON.parse(new TextDecoder().decode(reply.body)) as Record<string, Row[]>;
  const kept = page.data as Record<string, Row[]>;
  const mine = own[whole.list] ?? [];
  const rest = (kept[whole.list] ?? []).filter((x) => !mine.some((y) => whole.id(y) === whole.id(x)));
  const body = new TextEncoder().encode(JSON.stringify({ ...kept, [whole.list]: [...mine, ...rest] }));
  return { ...reply, body };
}

/** What the phone's program says to a request; undefined where it does not know, or is not there yet. */
async function answerTo(request: Request): Promise<Response | undefined> {
  const url = new URL(request.url);
  const path = url.pathname.slice(base.length);
  const query = Object.fromEntries(url.searchParams);
  const body = request.method === "GET" ? undefined : ((await request.json()) as unknown);
  const inUnits = query.units ?? request.headers.get("Hevrin-Units") ?? "metric";
  const reply = await inTurn(async () => {
    await together();
    return merged(path, await ask(request.method, path, query, body, inUnits));
  });
  if (notHere(reply.status)) return undefined;
  return new Response(reply.body, { status: reply.status, headers: { "Content-Type": reply.type } });
}

/** What the phone's program says to a letter that waits; undefined where it does not know. */
async function said(letter: Letter): Promise<Outcome | undefined> {
  wanted.add(letter.id);
  await inTurn(() => together(letter)).finally(() => wanted.delete(letter.id));
  const reply = replies.get(letter.id);
  replies.delete(letter.id);
  if (!reply || notHere(reply.status)) return undefined;
  if (letter.photo) await keepPhoto(letter.id, letter.photo);
  const data: unknown = JSON.parse(new TextDecoder().decode(reply.body));
  return reply.status < 400 ? { ok: true, data } : { ok: false, error: new Refused(data as Refused["problem"]) };
}

/** Works out what follows each of a check's answers, one between taps, until it is told to end. */
async function foresee(job: string, answers: JobEntry[], ended: AbortSignal): Promise<void> {
  for (const answer of answers) {
    if (ended.aborted || document.hidden || !link.alone()) return;
    const body = { ...answer, by: writer.by() };
    await inTurn(async () => {
      await together();
      await call({ foresee: requestOf("PUT", `/jobs/${job}/entries/${newID()}`, {}, body, units()) });
    });
  }
}

/** Starts it, where it does not run yet. */
function start() {
  if (is === "none") void inTurn(() => together()).catch(() => undefined);
}

if (typeof document !== "undefined") {
  let sleep: ReturnType<typeof setTimeout> | undefined;
  document.addEventListener("visibilitychange", () => {
    clearTimeout(sleep);
    if (document.hidden) sleep = setTimeout(() => open.size === 0 && dead("asleep"), sleepAfter);
  });
}

export const phone = {
  ready: () => is === "ready",
  start,
  answerTo,
  said,
  foresee,
};
