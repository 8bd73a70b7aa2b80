import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { JobEntry } from "./writes";

const standing = vi.hoisted(() => ({ alone: true, listeners: new Set<() => void>(), asked: vi.fn() }));
vi.mock("./link", () => ({
  link: {
    alone: () => standing.alone,
    subscribe: (l: () => void) => {
      standing.listeners.add(l);
      return () => standing.listeners.delete(l);
    },
  },
}));
vi.mock("./phone", () => ({ phone: { foresee: standing.asked } }));

const { foresee } = await import("./foresee");
const answers = [{ kind: "check", check: "outlet-flow", outcome: "inconclusive" }] as JobEntry[];
const soon = () => vi.advanceTimersByTimeAsync(1_000);

beforeEach(() => {
  vi.useFakeTimers();
  standing.listeners.clear();
  standing.alone = true;
  standing.asked.mockReset().mockResolvedValue(undefined);
});
afterEach(() => void vi.useRealTimers());

test("the answers that may come are thought through once the check is drawn", async () => {
  foresee("j", answers);
  expect(standing.asked).not.toHaveBeenCalled();
  await soon();
  expect(standing.asked.mock.calls[0]?.slice(0, 2)).toEqual(["j", answers]);
});

test("whose check has gone is not thought of, and what is under way ends", async () => {
  foresee("j", answers)();
  await soon();
  expect(standing.asked).not.toHaveBeenCalled();
  const end = foresee("j", answers);
  await soon();
  const ended = standing.asked.mock.calls[0]?.[2] as AbortSignal;
  expect(ended.aborted).toBe(false);
  end();
  expect(ended.aborted).toBe(true);
  expect(standing.listeners.size).toBe(0);
});

test("with a link the yard answers; where the phone's own program is ready later, it thinks then, once", async () => {
  standing.alone = false;
  const end = foresee("j", answers);
  await soon();
  expect(standing.asked).not.toHaveBeenCalled();
  standing.alone = true;
  standing.listeners.forEach((l) => l());
  standing.listeners.forEach((l) => l());
  await soon();
  expect(standing.asked).toHaveBeenCalledTimes(1);
  end();
});
