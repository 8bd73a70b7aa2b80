/**
 * Everything that is tapped goes through the outbox: kept on the device first, then sent, in the order of tapping, and
 * sent again until the server has answered. Ids are made here, so that sending twice keeps once.
 */
import { Refused } from "./client";

export interface Letter {
  id: string;
  path: string;
  body: Record<string, unknown>;
  /** What it says, in words, while it waits. */
  label: string;
}

export interface State {
  waiting: Letter[];
  /** The link is down: the last try did not reach the server. */
  down: boolean;
}

type Outcome = { ok: true; data: unknown } | { ok: false; error: Refused };

const shelf = "hevrin.outbox";
const pauses = [500, 1000, 2000, 4000];

export class Outbox {
  private state: State;
  private listeners = new Set<() => void>();
  private answers = new Map<string, (o: Outcome) => void>();
  private running = false;
  private wake: (() => void) | undefined;
  /** Told of a refusal that nobody waits for any more: the page that tapped it was reloaded. */
  onRefused: (letter: Letter, error: Refused) => void = () => undefined;

  constructor(
    private storage: Pick<Storage, "getItem" | "setItem">,
    private send: (path: string, body: unknown) => Promise<Response>,
    private sleep: (ms: number) => Promise<void> = (ms) => new Promise((done) => setTimeout(done, ms)),
  ) {
    this.state = { waiting: read(storage), down: false };
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  snapshot = () => this.state;

  /** Keeps a letter and sends it; settles when the server has kept it, or has refused it. */
  post(letter: Letter): Promise<unknown> {
    try {
      this.change({ ...this.state, waiting: [...this.state.waiting, letter] });
    } catch {
      return Promise.reject(new Error(full(this.state.waiting.length)));
    }
    const settled = new Promise<unknown>((done, fail) =>
      this.answers.set(letter.id, (o) => (o.ok ? done(o.data) : fail(o.error))),
    );
    void this.run();
    return settled;
  }

  /** Sends what waits, without a pause: on start, and when the link comes back. */
  hurry() {
    this.wake?.();
    void this.run();
  }

  /** On the device first: what cannot be kept there is not taken, and what waits stays as it was. */
  private change(state: State) {
    if (state.waiting !== this.state.waiting) this.storage.setItem(shelf, JSON.stringify(state.waiting));
    this.state = state;
    this.listeners.forEach((l) => l());
  }

  private async run() {
    if (this.running) return;
    this.running = true;
    let failures = 0;
    for (let letter = this.state.waiting[0]; letter; letter = this.state.waiting[0]) {
      const outcome = await this.attempt(letter);
      if (outcome === "again") {
        this.change({ ...this.state, down: true });
        const pause = pauses[Math.min(failures++, pauses.length - 1)] ?? 4000;
        await Promise.race([this.sleep(pause), new Promise<void>((done) => (this.wake = done))]);
        continue;
      }
      failures = 0;
      this.change({ waiting: this.state.waiting.slice(1), down: false });
      const answer = this.answers.get(letter.id);
      if (answer) answer(outcome);
      else if (!outcome.ok) this.onRefused(letter, outcome.error);
      this.answers.delete(letter.id);
    }
    this.running = false;
  }

  private async attempt(letter: Letter): Promise<Outcome | "again"> {
    try {
      const response = await this.send(letter.path, letter.body);
      if (response.status >= 500) return "again";
      const data: unknown = await response.json();
      return response.ok ? { ok: true, data } : { ok: false, error: new Refused(data as Refused["problem"]) };
    } catch {
      return "again"; // never reached the server, or the answer broke off: the same id makes it safe to send again
    }
  }
}

const full = (waiting: number) =>
  `Not kept: this device holds no more. ${waiting} things on it still wait for a link; go where there is one, then tap again.`;

function read(storage: Pick<Storage, "getItem">): Letter[] {
  try {
    const kept: unknown = JSON.parse(storage.getItem(shelf) ?? "[]");
    return Array.isArray(kept) ? (kept as Letter[]) : [];
  } catch {
    return [];
  }
}

export const outbox = new Outbox(localStorage, (path, body) =>
  fetch("/api/v1" + path, {
    method: "PUT",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  }),
);
