/** Whether the program is reached from this device, and when it was last. */
import { clock } from "./clock";
import { memory } from "./memory";
import { inPractice, practice, sentTo } from "./practice";

const name = "hevrin.reached";
/** How finely the time is remembered, ms. */
const step = 10_000;
/** How often is tried whether the program is reached again, ms, and how long that is waited for. */
const tryEvery = 3_000;
const tryFor = 2_000;

let down = false;
/** The phone's own program runs. */
let alone = false;
/** What is shown may still be the phone's: the link was gone, and not all was sent and asked for again since. */
let behind = false;
let trying: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function told(isDown: boolean) {
  if (!isDown && Date.now() - reached() > step) memory.set(name, String(Date.now()));
  if (isDown === down) return;
  down = isDown;
  behind ||= down;
  clearTimeout(trying);
  if (down) trying = setTimeout(() => void retry(), tryEvery);
  listeners.forEach((l) => l());
}

/** While nothing is reached, somebody has to ask: what is shown comes from the phone's own program. */
async function retry() {
  if (!document.hidden)
    await fetch("/api/v1/health", { signal: AbortSignal.timeout(tryFor) }).then(
      // a network that answers everything with a page of its own is no link
      (answer) => answer.status < 500 && answer.headers.get("Content-Type")?.includes("json") && told(false),
      () => undefined,
    );
  if (down) trying = setTimeout(() => void retry(), tryEvery);
}

/** When the program was last reached, ms since 1970; 0: never. */
const reached = () => Number(memory.text(name) ?? 0);

export const link = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  down: () => down,
  /** Whether the phone goes on by itself: there is no link, and its own program answers. */
  alone: () => down && alone,
  goesOn: (is: boolean) => {
    if (alone === is) return;
    alone = is;
    listeners.forEach((l) => l());
  },
  /** Whether what is shown may not be as the yard has it: without a link, and after it until all came together. */
  behind: () => behind,
  fellBehind: () => {
    behind = true;
    listeners.forEach((l) => l());
  },
  together: () => {
    if (down || !behind) return;
    behind = false;
    listeners.forEach((l) => l());
  },
  reached,
};

/** Does something as long as there is a link, and anew whenever it is back; what is done ends when it is told to. */
export async function whileLinked(work: (ended: AbortSignal) => Promise<void>, ended: AbortSignal): Promise<void> {
  while (!ended.aborted) {
    await work(AbortSignal.any([ended, turned(true, ended)]));
    await aborted(AbortSignal.any([ended, turned(false, ended)]));
  }
}

/** Aborted once the link is down, or up; or is so already. */
function turned(isDown: boolean, ended: AbortSignal): AbortSignal {
  const is = new AbortController();
  const look = () => {
    if (down !== isDown) return;
    stop();
    is.abort();
  };
  const stop = link.subscribe(look);
  ended.addEventListener("abort", stop);
  look();
  return is.signal;
}

const aborted = (signal: AbortSignal) =>
  new Promise<void>((done) => (signal.aborted ? done() : signal.addEventListener("abort", () => done())));

/** How long an answer to a question is waited for, ms: a link that is dead but not cut says nothing for minutes. */
const patience = 8_000;

/** Questions that the phone's own program may answer, as well as the yard's; a write goes by the outbox. */
const isQuestion = (r: Request) =>
  r.method === "GET" || /^\/api\/v1\/(calc|plant|diagnose)/.test(new URL(r.url).pathname);

/** The phone's own program, as far as it is asked from here. */
interface Phone {
  ready(): boolean;
  start(): void;
  answerTo(request: Request): Promise<Response | undefined>;
}
let fetchPhone: (() => Promise<Phone>) | undefined;
/** Says where the phone's own program is fetched from: it is no part of the first screen. */
export const helpedBy = (fetched: () => Promise<Phone>) => void (fetchPhone = fetched);

/** The phone's own program, once it runs; until then what was kept is shown. */
async function onThePhone(request: Request): Promise<Response | undefined> {
  const phone = typeof Worker === "undefined" ? undefined : await fetchPhone?.();
  if (phone?.ready()) return phone.answerTo(request);
  phone?.start();
  return undefined;
}

/** The question, if it is one that the phone's own program may answer. */
function questionOf(request: RequestInfo | URL): Request | undefined {
  return request instanceof Request && isQuestion(request) ? request.clone() : undefined;
}

/**
 * Whether what stands before the program answered because the program did not: that is no link, and passes. The
 * program's own answers of this kind say what is wrong with the record.
 */
const before = (answer: Response) =>
  [502, 503, 504].includes(answer.status) && !answer.headers.get("Content-Type")?.includes("problem+json");

/** Asks the program, and notes whether it answers. A question that is not answered in a while has no link. */
async function askYard(request: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const begun = Date.now();
  try {
    const bounded = request instanceof Request && request.method === "GET";
    const signal = bounded ? AbortSignal.any([request.signal, AbortSignal.timeout(patience)]) : undefined;
    const answer = await fetch(request, bounded ? { ...init, signal } : init);
    if (before(answer)) throw new TypeError("a proxy answered, and the program did not");
    told(false);
    clock.heard(Date.parse(answer.headers.get("Date") ?? ""), begun, Date.now());
    return answer;
  } catch (e) {
    // what the page itself gave up says nothing of the link
    if (!(e instanceof DOMException && e.name === "AbortError")) told(true);
    throw e;
  }
}

/** What belongs to practice, answered by whoever runs it; undefined for all else. */
async function ofPractice(request: RequestInfo | URL, init?: RequestInit): Promise<Response | undefined> {
  if (!practice && !(request instanceof Request && request.url.includes("/api/v1/practice"))) return undefined;
  const whole = request instanceof Request ? request : new Request(new URL(String(request), location.origin), init);
  const send = sentTo(askYard);
  return (await inPractice(whole, send)) ?? send(whole);
}

/** Asks the yard's program; where there is no link the phone's own answers what it can. */
export async function asked(request: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const practised = await ofPractice(request, init);
  if (practised) return practised;
  const question = questionOf(request);
  if (down && question) {
    const answer = await onThePhone(question.clone()).catch(() => undefined);
    if (answer) return answer;
  }
  try {
    return await askYard(request, init);
  } catch (e) {
    const answer = down && question && (await onThePhone(question).catch(() => undefined));
    if (answer) return answer;
    throw e;
  }
}
