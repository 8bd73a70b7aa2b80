import type { JobPage, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { isolations } from "./teardown";

type Settled = Pick<Schemas["Condition"], "settle" | "item" | "state" | "count" | "clamps">;

/** The entry that one touch sends to settle a condition, or to say that what comes before a check is done. */
export function settling(c: Settled, words?: string): JobEntry {
  if (c.settle === "access") return { kind: "access", access: c.item, open: false };
  return {
    kind: "strip",
    strip: {
      do: c.settle as Schemas["TeardownVerb"],
      item: c.item,
      ...(c.count && { count: c.count }),
      ...(c.clamps && { count: 0, clamps: c.clamps, reach: true }),
      ...(c.state && { state: c.state }),
      ...(words && { words }),
    },
  };
}

/** What the touch says, by what it does; ticks are confirmed. */
const touches: Record<string, string> = {
  access: "Closed up again",
  close: "Closed up again",
  on: "It is back on",
  renewed: "A new one is in",
};

export function touchOf(c: Settled): string {
  const isolation = isolations.find((i) => i.id === c.item);
  if (c.settle === "lift" && isolation) return isolation.lift;
  if (c.settle === "isolate" && isolation) return isolation.shut;
  if (c.clamps) return c.clamps > 1 ? "Two clamps, heads in reach" : "It is clamped";
  if (c.settle === "on" && c.state === "new") return touches.renewed ?? "";
  if (c.settle === "oil") return c.item === "changed" ? "Changed, and why" : "It is sound";
  if (c.settle === "heat") return "It is cold";
  return touches[c.settle] ?? "Confirm";
}

/** What stands in the way, of a list of conditions. */
export const unmet = (list: Schemas["Condition"][]) => list.filter((c) => !c.ok && !c.overridden);

/** Nothing known stands in the way of a run: then "ran just now" settles the seacock by one touch. */
export const mayHaveRun = (page: JobPage) => !unmet(page.hands.conditions).some((c) => c.stands);
