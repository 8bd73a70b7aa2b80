/**
 * Practice: a page whose address begins with /practice/{id} asks everything of that practice's own record. It is
 * decided once, when the page is opened: nothing that such a page asks or writes ever reaches the yard's record, and
 * what lies on the device for the yard (its outbox, its kept pages) is not touched by it.
 */
import { isRecord, memory } from "./memory";
import { practiceBase } from "./practiceBase";
import type { components } from "./schema.gen";

type Schemas = components["schemas"];

/** The practice that this page is in; undefined on every other page. */
export const practice: string | undefined = /^\/practice\/([0-9a-f-]{36})(?=\/|$)/.exec(
  typeof location === "undefined" ? "" : location.pathname,
)?.[1];

/** Where the addresses of this page begin. */
export const basename = practice && `/practice/${practice}`;

const base = "/api/v1";
/** What is asked of the yard's program on a page of practice too: who is signed in, and practice itself. */
const ofTheYard = /^\/(session|practice|health|setup)(\/|$)/;

type Danger = Schemas["PracticeDanger"];
const dangerous = new Set<(list: Danger[]) => void>();
const changed = new Set<() => void>();

/** Tells of dangers that were walked into, and of everything that may have changed the practice. */
export const practiceNews = {
  onDangers: (l: (list: Danger[]) => void) => {
    dangerous.add(l);
    return () => void dangerous.delete(l);
  },
  onChange: (l: () => void) => {
    changed.add(l);
    return () => void changed.delete(l);
  },
  tell: (list: Danger[]) => {
    if (list.length > 0) dangerous.forEach((l) => l(list));
    changed.forEach((l) => l());
  },
};

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), {
    status,
    headers: { "Content-Type": status < 400 ? "application/json" : "application/problem+json" },
  });

/** What only the yard has, said in words of practice. */
const notHere = {
  title: "Not part of practice",
  status: 501,
  detail: "This is no part of practice: a real job has it.",
};

/** Under which a device remembers which practices it runs by itself, and how each was chosen. */
const name = "hevrin.practised-here";
type Choice = Omit<Schemas["PracticeBegun"], "by" | "tapped_at">;
const isList = (x: unknown): x is Record<string, Choice> => isRecord(x);
const here = (): Record<string, Choice> => memory.read(name, isList) ?? {};

/** Practices that this device runs by itself: those that were begun while there was no link. */
export const onThisDevice = {
  has: (id: string) => id in here(),
  choice: (id: string): Choice | undefined => here()[id],
  ids: () => Object.keys(here()),
  add: (id: string, choice: Choice) => void memory.write(name, { ...here(), [id]: choice }),
  /** Another person uses the device now. */
  clear: () => {
    memory.set(name, undefined);
    indexedDB.deleteDatabase(practiceBase);
  },
};

/** Sends a request of practice to whoever runs it: the yard's program, or the one on this device. */
export const sentTo = (send: (r: Request) => Promise<Response>) => (r: Request) => {
  const { pathname } = new URL(r.url);
  const of = /\/api\/v1\/practice\/([0-9a-f-]{36})/.exec(pathname)?.[1];
  const alone = (q: Request) => import("./practisedHere").then((m) => m.practisedHere(q));
  if (of && onThisDevice.has(of)) return alone(r);
  if (pathname !== "/api/v1/practice") return send(r);
  const again = r.clone();
  return send(r).catch(() => alone(again)); // what can be practised is the same without a link
};

/** The request as it goes to the practice; undefined for what is asked of the yard here too. */
export async function inPractice(
  request: Request,
  send: (r: Request) => Promise<Response>,
): Promise<Response | undefined> {
  const url = new URL(request.url);
  const path = url.pathname.slice(base.length);
  if (!practice || !url.pathname.startsWith(base) || ofTheYard.test(path)) return undefined;
  if (path.endsWith("/present")) return json(200, { others: [] }); // nobody else is here
  const body: unknown = request.method === "GET" ? undefined : await request.json();
  const answer = await send(
    new Request(new URL(`${base}/practice/${practice}/ask`, url), {
      method: "POST",
      headers: { "Content-Type": "application/json", "Hevrin-Units": request.headers.get("Hevrin-Units") ?? "metric" },
      body: JSON.stringify({ method: request.method, path, query: Object.fromEntries(url.searchParams), body }),
      signal: request.signal,
    }),
  );
  if (!answer.ok) return answer;
  const said = (await answer.json()) as Schemas["PracticeAnswer"];
  if (request.method === "PUT") practiceNews.tell(said.dangers);
  return said.status === 501 ? json(501, notHere) : json(said.status, said.body);
}
