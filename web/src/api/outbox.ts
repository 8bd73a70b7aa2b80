/**
 * Everything that is tapped goes through the outbox: stored on the device first (IndexedDB), then sent, in the order of
 * tapping for each subject, and sent again until the program has answered. All tabs of a device share one queue: one of
 * them sends (a Web Lock), all are told. Ids are made here, so that sending twice saves once.
 */
import { Refused, unitsHeader, type Schemas } from "./client";
import { clock } from "./clock";
import { pageLetters, storedLetters, takeOver, type Letter, type Letters } from "./letters";
import { asked, link } from "./link";
import { isRecord } from "./memory";
import { practice } from "./practice";
import { session } from "./session";

/**
 * Why what waits is not sent: the program is not reached, cannot save, does not know who asks, or tells what is wrong
 * with the place where the record lies. What waits for that is tried for ever.
 */
export type Trouble = "none" | "no-link" | "cannot-save" | "signed-out" | Schemas["TroubleKind"];

/** The type of a problem of the place where the record lies begins so; its kind follows. */
const ofPlace = "/problems/record/";

export interface State {
  waiting: Letter[];
  aside: Letter[];
  trouble: Trouble;
  /** Ids of those that this device could not store: they are gone once the page is. */
  unkept: string[];
}

export type Outcome = { ok: true; data: unknown } | { ok: false; error: Error };
type Told = { kind: "changed"; trouble: Trouble } | { kind: "settled"; id: string; outcome: Told2 } | { kind: "hurry" };
type Told2 = { ok: true; data: unknown } | { ok: false; problem?: Refused["problem"]; say: string };

export interface Surroundings {
  letters: Letters;
  send: (path: string, body: unknown) => Promise<Response>;
  /** Who is signed in now; undefined where nobody signs in. */
  person?: () => Letter["person"];
  sleep?: (ms: number) => Promise<void>;
  /** Runs something while no other tab does. */
  alone?: (work: () => Promise<void>) => Promise<void>;
  channel?: Pick<BroadcastChannel, "postMessage"> & { onmessage: ((e: MessageEvent) => void) | null };
  /** What the phone's own program says to a letter, where there is no link; undefined where it does not know. */
  onPhone?: (letter: Letter) => Promise<Outcome | undefined>;
  /** Whether it is known that there is no link. */
  down?: () => boolean;
  /** Told where an earlier page left something that still waits: what the yard shows is without it. */
  left?: () => void;
}

const pauses = [500, 1000, 2000, 4000];
/** How long the yard's program is waited for before the phone's own is asked as well, ms. */
const slow = 2_500;
/** How often a letter is tried that the program answers but cannot save, before it steps aside. */
export const mostTries = 5;

/** What of a queue's state is to be seen: two that look alike are one. */
const stands = ({ waiting, aside, trouble, unkept }: State) =>
  JSON.stringify([
    trouble,
    unkept,
    ...[waiting, aside].map((list) => list.map((l) => [l.id, l.aside, l.theirs, l.person?.id])),
  ]);

/** What letters are about, as far as their order matters: a job, an engine, a craft, the inventory, the methods. */
const subjectOf = (l: Letter) => l.path.split("/").slice(0, 3).join("/");

export class Outbox {
  private state: State = { waiting: [], aside: [], trouble: "none", unkept: [] };
  private listeners = new Set<() => void>();
  private answers = new Map<string, (o: Outcome) => void>();
  private running = false;
  private wake: (() => void) | undefined;
  /** Letters that are being stored. */
  private storing = new Map<string, Promise<void>>();
  /** Letters that the device could not store, still to be sent while the page is open. */
  private unstored: Letter[] = [];
  /** Called with a refusal that nobody waits for any more: the page that tapped it was reloaded. */
  onRefused: (letter: Letter, why: string) => void = () => undefined;
  /** Called when something was sent for whose answer nobody waits any more: what is shown may stand otherwise now. */
  onLate: () => void = () => undefined;
  /** Called with everything that the yard has saved. */
  onSent: (letter: Letter) => void = () => undefined;
  /** What the phone's own program says to a letter; nothing where there is none. */
  phoneSays: (letter: Letter) => Promise<Outcome | undefined> = () => Promise.resolve(undefined);
  /** The letter that is under way at this moment. */
  private underWay: string | undefined;

  constructor(private around: Surroundings) {
    around.letters.onGone?.(() => void this.restore(this.state));
    if (around.channel) around.channel.onmessage = (e) => this.heard(e.data as Told);
    void this.look().then(() => {
      if (this.state.waiting.length > 0) this.around.left?.();
      return this.run();
    });
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  snapshot = () => this.state;

  /** Stores a letter and sends it; settles when the program has saved it, or has refused it. */
  async post(given: Letter): Promise<unknown> {
    const letter = { ...given, person: this.around.person?.() };
    const settled = new Promise<unknown>((done, fail) =>
      this.answers.set(letter.id, (o) => (o.ok ? done(o.data) : fail(o.error))),
    );
    settled.catch(() => undefined);
    // the device may be full, or refuse: then it is sent from here, while the page is open
    const storing = this.around.letters.add(letter).catch(() => void this.unstored.push(letter));
    this.storing.set(letter.id, storing);
    if (this.around.down?.()) void this.askPhone(letter); // meanwhile
    await storing;
    this.storing.delete(letter.id);
    await this.look();
    this.tell({ kind: "changed", trouble: this.state.trouble });
    void this.run();
    return settled;
  }

  /**
   * Lets the phone's own program answer whoever waits for a letter, which waits on for the yard's. What it refuses
   * steps aside: the person may send it all the same.
   */
  private async askPhone(letter: Letter) {
    if (!this.around.onPhone || !this.answers.has(letter.id)) return;
    const outcome = await this.around.onPhone(letter).catch(() => undefined);
    if (!outcome || !this.answers.has(letter.id)) return;
    if (outcome.ok) return void this.settle(letter.id, outcome);
    await this.storing.get(letter.id); // what is not stored yet cannot step aside
    if (this.underWay !== letter.id)
      await this.stepAside(letter, outcome, `${outcome.error.message} (As it is known here, without a link.)`);
  }

  /** Sends what waits, without a pause: on start, and when the link comes back. */
  hurry() {
    this.wake?.();
    this.tell({ kind: "hurry" });
    void this.run();
  }

  /** The screens that waited for an answer are gone, as after a sign-out: what is refused now is told by itself. */
  nobodyWaits() {
    this.answers.clear();
  }

  /** Somebody signed in: what waits is sent, and what stepped aside because it is theirs comes back. */
  async signedIn() {
    const now = this.around.person?.();
    await this.look();
    for (const l of this.state.aside)
      if (l.theirs && l.person?.id === now?.id)
        await this.change(l.id, (x) => ({ ...x, aside: undefined, theirs: undefined }));
    this.hurry();
  }

  /**
   * The device's storage was emptied under the open page: what waited, as it is known here, is stored anew. Two tabs
   * may both do so: what is sent twice is saved once.
   */
  private async restore(known: State) {
    const stored = await this.around.letters.all().catch((): Letter[] => []);
    for (const l of [...known.waiting, ...known.aside])
      if (!stored.some((s) => s.id === l.id) && !this.unstored.some((u) => u.id === l.id))
        await this.around.letters.add(l).catch(() => void this.unstored.push(l));
    await this.look();
    this.hurry();
  }

  /** Puts a letter that stepped aside back into the queue. */
  async again(id: string) {
    // whoever sends it again sends it as their own
    await this.change(id, (l) => ({
      ...l,
      aside: undefined,
      theirs: undefined,
      person: this.around.person?.() ?? l.person,
    }));
    this.hurry();
  }

  /** Lets a letter go that stepped aside. */
  drop = (id: string) => this.change(id, () => undefined);

  private async change(id: string, to: (l: Letter) => Letter | undefined) {
    await this.around.letters.change(id, to).catch(() => undefined); // a device without storage
    const changed = (list: Letter[]) => list.flatMap((l) => (l.id === id ? (to(l) ?? []) : [l]));
    this.unstored = changed(this.unstored);
    await this.look(this.state.trouble, changed([...this.state.waiting, ...this.state.aside]));
    this.tell({ kind: "changed", trouble: this.state.trouble });
  }

  /** Tries to store once more what the device could not: there may be room by now. */
  private async keepUnstored() {
    for (const l of this.unstored)
      await this.around.letters.add(l).then(
        () => void (this.unstored = this.unstored.filter((u) => u.id !== l.id)),
        () => undefined,
      );
  }

  private tell(what: Told) {
    this.around.channel?.postMessage(what);
  }

  private heard(what: Told) {
    if (what.kind === "hurry") return this.wake?.();
    if (what.kind === "changed") return void this.look(what.trouble);
    const { id, outcome } = what;
    this.settle(
      id,
      outcome.ok
        ? outcome
        : { ok: false, error: outcome.problem ? new Refused(outcome.problem) : new Error(outcome.say) },
    );
  }

  private settle(id: string, outcome: Outcome): boolean {
    const answer = this.answers.get(id);
    this.answers.delete(id);
    answer?.(outcome);
    return answer !== undefined;
  }

  /** Reads the queue as it stands, from whichever tab; as it is known here where the device stores nothing. */
  private async look(trouble = this.state.trouble, known = [...this.state.waiting, ...this.state.aside]) {
    const stored = await this.around.letters.all().catch(() => known);
    const all = [...stored, ...this.unstored.filter((l) => !stored.some((s) => s.id === l.id))];
    const unkept = this.unstored.map((l) => l.id);
    const state = { waiting: all.filter((l) => !l.aside), aside: all.filter((l) => l.aside), trouble, unkept };
    if (stands(state) === stands(this.state)) return; // nothing is drawn anew for it
    this.state = state;
    this.listeners.forEach((l) => l());
  }

  private async run() {
    if (this.running) return;
    this.running = true;
    try {
      await (this.around.alone ?? ((work) => work()))(() => this.sendAll());
    } finally {
      this.running = false;
    }
  }

  private async sendAll() {
    let failures = 0;
    const tries = new Map<string, number>();
    for (;;) {
      await this.look();
      const letter = this.nextOf(tries);
      if (!letter) return;
      const asked = setTimeout(() => void this.askPhone(letter), slow);
      this.underWay = letter.id;
      const outcome = await this.attempt(letter);
      this.underWay = undefined;
      clearTimeout(asked);
      if (typeof outcome === "string") {
        if (outcome === "no-link") void this.askPhone(letter);
        if (outcome === "cannot-save") tries.set(letter.id, (tries.get(letter.id) ?? 0) + 1);
        if ((tries.get(letter.id) ?? 0) >= mostTries) {
          const say = "The program answered, but could not save it.";
          await this.stepAside(letter, { ok: false, error: new Error(say) }, say);
          failures = 0;
          continue;
        }
        await this.keepUnstored();
        await this.say(outcome);
        const pause = pauses[Math.min(failures++, pauses.length - 1)] ?? 4000;
        const sleep = this.around.sleep ?? ((ms: number) => new Promise<void>((done) => setTimeout(done, ms)));
        await Promise.race([sleep(pause), new Promise<void>((done) => (this.wake = done))]);
        continue;
      }
      failures = 0;
      if (!outcome.ok) await this.stepAside(letter, outcome, outcome.error.message);
      else {
        // the answer first: what is shown must not fall back to how it was before the tap in between
        this.onSent(letter);
        const late = !this.settle(letter.id, outcome);
        await this.change(letter.id, () => undefined);
        if (late) this.onLate();
        this.tell({ kind: "settled", id: letter.id, outcome });
      }
      await this.say("none");
    }
  }

  private async say(trouble: Trouble) {
    if (trouble === this.state.trouble) return;
    await this.look(trouble);
    this.tell({ kind: "changed", trouble });
  }

  /** The first letter that waits, of a subject of which none was tried in vain before; else the first of all. */
  private nextOf(tries: Map<string, number>): Letter | undefined {
    const held = new Set<string>();
    for (const l of this.state.waiting) {
      if (!tries.has(l.id) && !held.has(subjectOf(l))) return l;
      held.add(subjectOf(l));
    }
    return this.state.waiting[0];
  }

  private async stepAside(letter: Letter, outcome: Outcome, why: string) {
    const say = why || "The program refused it, and did not say why.";
    const waitedFor = this.answers.has(letter.id);
    if (letter.form && waitedFor) await this.change(letter.id, () => undefined);
    else await this.change(letter.id, (l) => ({ ...l, aside: say, theirs: this.isAnothers(l) }));
    const problem = !outcome.ok && outcome.error instanceof Refused ? outcome.error.problem : undefined;
    if (!this.settle(letter.id, outcome)) this.onRefused(letter, say);
    this.tell({ kind: "settled", id: letter.id, outcome: { ok: false, problem, say } });
  }

  /** Another than who is signed in now tapped it. */
  private isAnothers(l: Letter) {
    const now = this.around.person?.();
    return l.person !== undefined && now !== undefined && l.person.id !== now.id;
  }

  private async attempt(letter: Letter): Promise<Outcome | Exclude<Trouble, "none">> {
    const now = this.around.person?.()?.name ?? "";
    if (this.isAnothers(letter)) {
      const who = letter.person?.name ?? "";
      const say = `${who} tapped this, and ${now} is signed in now. Send it as ${now}, or drop it.`;
      return { ok: false, error: new Error(say) };
    }
    let body: unknown;
    try {
      body = await bodyOf(letter);
    } catch {
      return { ok: false, error: new Error("Its picture is not on this device any more. Drop it, and take it again.") };
    }
    let response: Response;
    try {
      response = await this.around.send(letter.path, body);
    } catch {
      return "no-link"; // never reached the program: the same id makes it safe to send again
    }
    if (response.status === 401) {
      session.lost();
      return "signed-out";
    }
    const trouble = await troubleIn(response);
    if (trouble) return trouble;
    try {
      const data: unknown = await response.json();
      return response.ok ? { ok: true, data } : { ok: false, error: new Refused(data as Refused["problem"]) };
    } catch {
      return "no-link"; // the answer broke off
    }
  }
}

/**
 * What keeps the program from saving anything now; no word about the letter. Only what the program itself could not
 * save counts against it: who asks too much at once, or breaks off, waits.
 */
async function troubleIn(response: Response): Promise<Exclude<Trouble, "none"> | undefined> {
  if ([408, 429].includes(response.status)) return "busy";
  if (response.status < 500) return undefined;
  const problem: unknown = await response.json().catch(() => undefined);
  const type = isRecord(problem) && typeof problem.type === "string" ? problem.type : "";
  if (type.startsWith(ofPlace)) return type.slice(ofPlace.length) as Schemas["TroubleKind"];
  return response.status === 503 ? "busy" : "cannot-save";
}

/** What a letter says, as the program takes it. */
export async function bodyOf(l: Letter): Promise<unknown> {
  if (!l.photo) return l.body;
  return { ...l.body, photo: { ...(l.body.photo as object), data: await base64Of(l.photo) } };
}

/** A file as the program takes it. */
export async function base64Of(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const pieces: string[] = [];
  for (let i = 0; i < bytes.length; i += 0x8000) pieces.push(String.fromCharCode(...bytes.subarray(i, i + 0x8000)));
  return btoa(pieces.join(""));
}

const sendLetter = (path: string, body: unknown) =>
  asked("/api/v1" + path, {
    method: "PUT",
    headers: {
      "Content-Type": "application/json",
      "Hevrin-Sent-At": new Date(clock.now()).toISOString(),
      ...unitsHeader(),
    },
    body: JSON.stringify(body),
  });

/** The device's outbox; on a page of practice one of its own. */
function deviceOutbox(): Outbox {
  if (practice)
    return new Outbox({ letters: pageLetters(), send: sendLetter, person: () => session.snapshot()?.person });
  const letters = storedLetters();
  const old = takeOver(letters).catch(() => undefined);
  return new Outbox({
    letters: { ...letters, all: () => old.then(letters.all) },
    send: sendLetter,
    person: () => session.snapshot()?.person,
    down: link.down,
    left: link.fellBehind,
    onPhone: (letter) => outbox.phoneSays(letter),
    alone: (work) => (navigator.locks ? navigator.locks.request("hevrin.outbox", work) : work()),
    channel: typeof BroadcastChannel === "undefined" ? undefined : new BroadcastChannel("hevrin.outbox"),
  });
}

export const outbox: Outbox = deviceOutbox();
