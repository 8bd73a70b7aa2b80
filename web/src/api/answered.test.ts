import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { answered } from "./answered";

const key = ["job", "1"] as const;
const settled = () => vi.advanceTimersByTimeAsync(5);
beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A screen that shows a job, and the questions it asked, each answered by hand. */
function shown() {
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const asked: ((page: string) => void)[] = [];
  const seen: unknown[] = [];
  const queryFn = () => new Promise<string>((answer) => asked.push(answer));
  const ends = new QueryObserver(cache, { queryKey: key, queryFn }).subscribe((r) => {
    if (r.data !== undefined && r.data !== seen.at(-1)) seen.push(r.data);
  });
  return { cache, asked, seen, ends };
}

describe("what a write answered", () => {
  it("does not fall back to what was asked before it, and asks again", async () => {
    const { cache, asked, seen, ends } = shown();
    asked[0]?.("as opened");
    await settled();
    void cache.invalidateQueries({ queryKey: key }); // another's entry
    await settled();
    expect(asked).toHaveLength(2);
    answered(cache, key, "with the tap");
    asked[1]?.("as before the tap");
    await settled();
    expect(seen).toEqual(["as opened", "with the tap"]);
    expect(asked).toHaveLength(3);
    asked[2]?.("with both");
    await settled();
    expect(seen).toEqual(["as opened", "with the tap", "with both"]);
    ends();
  });

  it("is all where nothing was under way", async () => {
    const { cache, asked, seen, ends } = shown();
    asked[0]?.("as opened");
    await settled();
    answered(cache, key, "with the tap");
    await settled();
    expect(seen).toEqual(["as opened", "with the tap"]);
    expect(asked).toHaveLength(1);
    ends();
  });

  it("stands where the page was never answered before, and where nobody shows it any more", async () => {
    const first = shown();
    answered(first.cache, key, "with the tap"); // while it is asked for the first time
    first.asked[0]?.("as before the tap");
    await settled();
    expect(first.seen).toEqual(["with the tap"]);

    first.asked[1]?.("with both");
    await settled();
    void first.cache.invalidateQueries({ queryKey: key });
    await settled();
    first.ends(); // the screen is left while it is asked
    answered(first.cache, key, "with another tap");
    first.asked[2]?.("as before the other tap");
    await settled();
    expect(first.cache.getQueryData(key)).toBe("with another tap");
  });
});
