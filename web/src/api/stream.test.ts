import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { asked, link, whileLinked } from "./link";
import { listenTo, longestSilence } from "./stream";

/** Streams as a browser opens them, spoken for by hand. */
const streams: Spoken[] = [];
class Spoken extends EventTarget {
  onopen?: () => void;
  onerror?: () => void;
  closed = false;
  constructor(readonly at: string) {
    super();
    streams.push(this);
  }
  close = () => (this.closed = true);
  say = (kind: string, data = "1") => this.dispatchEvent(new MessageEvent(kind, { data }));
}

function listening() {
  const ended = new AbortController();
  const told: string[] = [];
  const done = listenTo(
    "/changes",
    {
      opened: () => told.push("here"),
      broke: () => told.push("gone"),
      heard: (kind, data) => told.push(`${kind} ${data}`),
    },
    ended.signal,
  );
  return { told, end: () => (ended.abort(), done) };
}

describe("a stream", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal("EventSource", Spoken);
    streams.length = 0;
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it("that says something now and then is left as it is", async () => {
    const { told, end } = listening();
    streams[0]?.onopen?.();
    for (let i = 0; i < 20; i++) {
      vi.advanceTimersByTime(15_000);
      streams[0]?.say("beat");
    }
    streams[0]?.say("message", "{}");
    expect(streams).toHaveLength(1);
    expect([told[0], told.at(-1)]).toEqual(["here", "message {}"]);
    await end();
    expect(streams[0]?.closed).toBe(true);
  });

  it("that is silent for too long is told as broken and opened anew", async () => {
    const { told, end } = listening();
    streams[0]?.onopen?.();
    vi.advanceTimersByTime(longestSilence - 1);
    expect(streams).toHaveLength(1);
    vi.advanceTimersByTime(5_001);
    expect(streams).toHaveLength(2);
    expect(streams[0]?.closed).toBe(true);
    streams[1]?.onopen?.();
    expect(told).toEqual(["here", "gone", "here"]);
    await end();
  });

  it("is looked after at once when a device wakes", async () => {
    const { told, end } = listening();
    streams[0]?.onopen?.();
    vi.setSystemTime(Date.now() + 3_600_000); // asleep: no timer ran
    document.dispatchEvent(new Event("visibilitychange"));
    expect(streams).toHaveLength(2);
    expect(told).toEqual(["here", "gone"]);
    await end();
    vi.advanceTimersByTime(3_600_000);
    expect(streams, "nobody listens any more").toHaveLength(2);
  });

  it("is not opened again and again while there is no link, and at once when it is back", async () => {
    const answers = vi.fn<typeof fetch>();
    vi.stubGlobal("fetch", answers);
    const ended = new AbortController();
    const on = { opened: () => undefined, broke: () => undefined, heard: () => undefined };
    const done = whileLinked((until) => listenTo("/changes", on, until), ended.signal);
    expect(streams).toHaveLength(1);

    answers.mockRejectedValue(new TypeError("no network"));
    await asked("/api/v1/yard").catch(() => undefined);
    expect([link.down(), streams[0]?.closed]).toEqual([true, true]);
    await vi.advanceTimersByTimeAsync(60_000);
    expect(streams).toHaveLength(1);

    answers.mockResolvedValue(new Response("{}", { headers: { "Content-Type": "application/json" } }));
    await vi.advanceTimersByTimeAsync(3_000); // whether there is a link is asked for every 3 s
    expect([link.down(), streams.length, streams[1]?.closed]).toEqual([false, 2, false]);

    ended.abort();
    await done;
    expect(streams[1]?.closed).toBe(true);
  });
});
