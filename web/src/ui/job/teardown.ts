import type { Schemas } from "../../api/client";
import { hasCoolant } from "../engine/circuit";

export type TeardownAct = Schemas["TeardownAct"];
export type TeardownItem = Schemas["TeardownItem"];
export type Teardown = Schemas["Teardown"];
export type Act = (act: TeardownAct, label: string) => void;

/** What can be isolated, in the order of doing. */
export const isolations = [
  { id: "seacock", label: "Seacock", shut: "Seacock shut", lift: "Seacock open" },
  { id: "leg-hose", label: "Drive-leg hose", shut: "Leg hose off and plugged", lift: "Leg hose back on" },
  { id: "battery", label: "Battery", shut: "Battery off", lift: "Battery on" },
  { id: "coolant", label: "Coolant", shut: "Coolant drained", lift: "Coolant filled and bled" },
  { id: "sensor", label: "Safety sensor", shut: "Sensor unplugged", lift: "Sensor plugged in" },
  { id: "anodes", label: "Anodes", shut: "Anodes out", lift: "Anodes back in" },
] as const;

/** Those that this engine has: a seacock, or else a drive leg; coolant where there is any. */
export function isolationsOf(engine: Schemas["Engine"]) {
  const seacock = engine.circuit.includes("seacock");
  return isolations.filter((i) => {
    if (i.id === "seacock") return seacock;
    if (i.id === "leg-hose") return !seacock;
    return i.id !== "coolant" || hasCoolant(engine);
  });
}

export const kindWords: Record<Schemas["ItemKind"], string> = {
  part: "part",
  seal: "seal",
  hose: "hose",
  fasteners: "fasteners",
};

/** "2 of 6 off", "all back", what there is to say of an item in a few words. */
export function itemState(i: TeardownItem): string {
  const back = i.new + i.reused;
  if (i.refit.sealant) return "sealant in its place";
  if (i.excused) return `stays off: ${i.excused}`;
  if (i.off === 0) return i.item.count > 1 ? `${i.item.count} usually` : "not off";
  if (back === 0) return i.off > 1 || i.item.count > 1 ? `${i.off} off` : "off";
  if (back < i.off) return `${back} of ${i.off} back`;
  if (back > i.off) return `${back} on, only ${i.off} came off`;
  return i.off > 1 ? `all ${i.off} back` : "back";
}

export const passes = ["snug", "half", "full"];

/** What is still off, in one line that stays in view. */
export function stillOff(h: Teardown): string {
  const n = (kinds: Schemas["ItemKind"][]) =>
    h.items.filter((i) => kinds.includes(i.item.kind)).reduce((sum, i) => sum + i.still_off, 0);
  const parts = n(["part", "fasteners", "hose"]);
  const seals = n(["seal"]);
  if (parts + seals === 0) return h.items.some((i) => i.off > 0) ? "Everything is back" : "No part is off";
  const count = (k: number, one: string) => (k === 1 ? `1 ${one}` : `${k} ${one}s`);
  return `Still off: ${[parts && count(parts, "part"), seals && count(seals, "seal")].filter(Boolean).join(", ")}`;
}

/** The list with taps laid over it that still wait for a link, so that counting goes on without one. */
export const withWaitingActs = (h: Teardown, acts: TeardownAct[]): Teardown =>
  acts.reduce((now, a) => overlays[a.do]?.(now, a) ?? now, h);

/** What an act changes of the account before the program has it. */
const overlays: Partial<Record<TeardownAct["do"], (now: Teardown, a: TeardownAct) => Teardown>> = {
  off: (now, a) => {
    const n = a.count ?? 0;
    const key = a.item ?? "";
    const came = n > 0 && !now.rebuild.includes(key); // what came off last goes back first
    return {
      ...now,
      items: changed(now, a, (i) => counted({ ...i, off: Math.max(0, i.off + n) })),
      rebuild: came ? [key, ...now.rebuild] : now.rebuild,
    };
  },
  on: (now, a) => {
    const n = a.count ?? 0;
    const back = (i: TeardownItem) => (a.state === "new" ? { new: i.new + n } : { reused: i.reused + n });
    return { ...now, items: changed(now, a, (i) => counted({ ...i, ...back(i) })) };
  },
  tighten: (now, a) => ({ ...now, items: changed(now, a, (i) => ({ ...i, pass: a.pass ?? i.pass })) }),
  tick: (now, a) => ({
    ...now,
    conditions: now.conditions.map((c) => (c.id === a.item ? { ...c, ok: true, why: "" } : c)),
  }),
  isolate: (now, a) => {
    const banner = isolations.find((i) => i.id === a.item)?.shut.toUpperCase() ?? "";
    const at = new Date().toISOString();
    const rest = now.isolated.filter((i) => i.id !== a.item);
    return { ...now, isolated: [...rest, { id: a.item ?? "", banner, by: "", at, words: "", litres: 0 }] };
  },
  lift: (now, a) => ({ ...now, isolated: now.isolated.filter((i) => i.id !== a.item) }),
};

const changed = (now: Teardown, a: TeardownAct, to: (i: TeardownItem) => TeardownItem) =>
  now.items.map((i) => (i.key === a.item ? to(i) : i));

const counted = (i: TeardownItem): TeardownItem => ({ ...i, still_off: Math.max(0, i.off - i.new - i.reused) });

export const verdictWords: Record<string, string> = {
  reuse: "It may go back",
  replace: "Fit a new one",
  "replace-and-hunt": "Fit a new one, and hunt for what is missing",
  good: "Good",
  clean: "Clean it",
};
