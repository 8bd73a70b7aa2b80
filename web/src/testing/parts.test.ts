import { describe, expect, it } from "vitest";
import type { Catalogue, JobPage, LogLine } from "../api/client";
import type { Letter } from "../api/letters";
import { withWaiting } from "../api/pending";
import { absent, moved, put } from "../ui/engine/circuit";
import {
  allClear,
  asked,
  graded,
  gradeOf,
  foundWords,
  keepLabel,
  marked,
  meaning,
  openFindings,
  statedOf,
  type Marks,
} from "../features/job/outcome";
import { factsOf } from "../features/readings/OnTheEngine";
import { apart, dashOf, valueAt } from "../ui/chart/reading";
import { faultsOn, percent, spineOf, warmth, type SpineStation } from "../ui/stations";
import { chapterOf, rateWords, search, strengthWords } from "../features/handbook/handbook";
import { moveWords } from "../features/job/why";
import { logWords, wordsOf } from "../ui/words";

const station = (id: string, closed: string[], direct: string[] = closed) => ({
  id,
  label: id,
  what: "",
  closed,
  direct,
});
const fault = (id: string, stations: string[], finding: string) => ({
  id,
  label: `The ${id}`,
  stations,
  families: ["closed"],
  prior: 0.1,
  why: "",
  remedy: "",
  sure: [{ check: "look", finding, rivals: [] }],
});
const check = (id: string, stations: string[], settles: string[], access: string | null = null) => ({
  id,
  label: id,
  stations,
  settles,
  access,
});

const catalogue = {
  stations: [
    station("intake", ["raw"]),
    station("pump", ["raw"]),
    station("cooler", ["raw"]),
    station("exchanger", ["raw", "coolant"], []),
    station("block", ["coolant"], ["raw"]),
    station("gauge", ["instrument"]),
  ],
  faults: [
    fault("weed", ["intake"], "covered"),
    fault("vanes", ["pump"], "gone"),
    fault("debris", ["exchanger", "cooler"], "pieces"),
  ],
  checks: [check("look", ["pump"], ["gone", "cracked"], "cover-off")],
  findings: [
    { id: "gone", label: "Blades gone", causes: [{ fault: "vanes" }], blocks: [] },
    { id: "cracked", label: "Blades cracked", causes: [{ fault: "other" }], blocks: [] },
  ],
  groups: [{ id: "water", label: "Water", findings: ["weak", "none"] }],
  history: [],
  access: [{ id: "cover-off", label: "Cover off" }],
  job_kinds: [],
  troubles: [],
  waters: [],
  points: [],
} as unknown as Catalogue;

const job = {
  engine: { family: "closed" as const, circuit: ["intake", "pump", "cooler", "exchanger", "block", "gauge"] },
  findings: [{ id: "covered", q: 0 }],
  open_access: ["cover-off"],
  diagnosis: {
    suspects: [
      { fault: "vanes", probability: 0.6, prior: 0, moved_by: [] },
      { fault: "debris", probability: 0.3, prior: 0, moved_by: [] },
    ],
    found: ["vanes"],
    given: [],
    advice: "put-right-and-prove",
  },
};

describe("the spine", () => {
  it("keeps the engine's own order and tells raw, coolant and the rest apart", () => {
    const s = spineOf(catalogue, job);
    expect(s.raw.map((x) => x.id)).toEqual(["intake", "pump", "cooler", "exchanger"]);
    expect(s.loop.map((x) => x.id)).toEqual(["block"]);
    expect(s.beside.map((x) => x.id)).toEqual(["gauge"]);
    expect(s.raw[s.joint]?.id).toBe("exchanger");
  });
  it("gives each station its state", () => {
    const s = spineOf(catalogue, job);
    expect(s.raw.map((x) => x.words)).toEqual(["clear", "found; open", "suspect, 30\u00a0%", "not looked at"]);
  });
  it("shows a fault of several stations at the first on this circuit", () => {
    expect(
      faultsOn(catalogue, job)
        .get("cooler")
        ?.map((f) => f.id),
    ).toEqual(["debris"]);
    expect(faultsOn(catalogue, job).get("exchanger")).toBeUndefined();
  });
  it("knows what comes at the outlet once somebody saw it, and nothing before", () => {
    const seen = (id: string, q: number) =>
      spineOf(catalogue, { ...job, findings: [...job.findings, { id, q }] }).outlet;
    expect(spineOf(catalogue, job).outlet).toBeUndefined();
    expect([seen("weak-water-at-outlet", 1), seen("no-water-at-outlet", 1)]).toEqual(["weak", "none"]);
    expect(seen("weak-water-at-outlet", 0)).toBeUndefined();
  });
  it("takes the water to be as warm as at the reading before, and before the first as there", () => {
    const read = (value?: number, side = "raw") => (value === undefined ? [] : [{ side, value, off: false }]);
    const list = [read(), read(18), read(), read(30), read(80, "coolant")].map((r) => ({ read: r }) as SpineStation);
    expect(warmth(list, "raw")).toEqual([18, 18, 18, 30, 30]);
    expect(warmth(list, "coolant")).toEqual([80, 80, 80, 80, 80]);
    expect(warmth([{ read: [] } as unknown as SpineStation], "raw")).toEqual([undefined]);
  });
  it("draws what the model says: readings beside health, faults where they sit, the flow that is left", () => {
    const reading = (temp_c: number) => [{ station: "exchanger", side: "raw" as const, temp_c }];
    const state = (raw_l_min: number, temp_c: number) => ({ raw_l_min, readings: reading(temp_c) });
    const limits = { is: state(30, 41), healthy: state(60, 33) } as unknown as Parameters<typeof factsOf>[2];
    const facts = factsOf(catalogue, job.engine, limits, ["debris"]);
    expect(facts.flow).toBe(0.5);
    expect(facts.raw.map((s) => s.words)).toEqual(["", "", "fault put on", ""]);
    expect(facts.raw[3]?.read).toEqual([{ side: "raw", value: 41, should: 33, off: true }]);
    expect(facts.beside).toEqual([]);
  });
  it("has no loop on a raw-water-cooled engine", () => {
    const s = spineOf(catalogue, { ...job, engine: { family: "direct", circuit: ["intake", "pump", "block"] } });
    expect([s.raw.length, s.loop.length, s.joint]).toEqual([3, 0, -1]);
  });
});

describe("a chart's read-out", () => {
  const line = { x: [0, 10, 20], y: [5, 15, 15] };
  it("reads a line between its points, and nothing beyond its ends", () => {
    expect([valueAt(line, 0), valueAt(line, 4), valueAt(line, 20)]).toEqual([5, 9, 15]);
    expect([valueAt(line, -0.1), valueAt(line, 20.1)]).toEqual([undefined, undefined]);
    expect(valueAt({ x: [20, 10, 0], y: [15, 15, 5] }, 4)).toBe(9); // drawn backwards
    expect(valueAt({ x: [3], y: [7] }, 3)).toBe(7);
  });
  it("gives nine lines nine strokes", () => {
    expect(new Set(Array.from({ length: 9 }, (_, i) => dashOf(i))).size).toBe(9);
  });
  it("keeps names apart, each as near to its line as can be, and within the drawing", () => {
    expect(apart([10, 50], 16, 0, 100)).toEqual([10, 50]);
    expect(apart([50, 52, 51], 16, 0, 100)).toEqual([50, 82, 66]);
    const low = apart([98, 99, 97], 16, 0, 100);
    expect([...low].sort((a, b) => a - b)).toEqual([68, 84, 100]);
    expect(Math.min(...apart([-20, 5], 16, 8, 100))).toBe(8);
  });
});

describe("an outcome", () => {
  const look = { ...check("look", ["pump"], ["gone", "cracked"]) } as unknown as Catalogue["checks"][number];
  it("keeps what was tapped; what nobody touched is unknown, never no", () => {
    expect(statedOf(look, { gone: "present" })).toEqual([{ id: "gone", state: "present" }]);
    expect(statedOf(look, { gone: "unknown" })).toEqual([{ id: "gone", state: "unknown" }]);
    expect(statedOf(look, {})).toEqual([]);
  });
  it("of a question with several options lets the one that is so drive the others out", () => {
    const c = { groups: [{ id: "water", label: "Water", findings: ["none", "weak"] }] } as unknown as Catalogue;
    expect(marked(c, { none: "present", steam: "present" }, "weak", "present")).toEqual({
      none: "absent",
      weak: "present",
      steam: "present",
    });
    expect(marked(c, { none: "present" }, "weak", "absent")).toEqual({ none: "present", weak: "absent" });
  });
  it("is all clear only when somebody says so, beside what was tapped", () => {
    expect(allClear(look, { gone: "present" })).toEqual({ gone: "present", cracked: "absent" });
  });
  it("says what it will keep", () => {
    expect(keepLabel(look, { gone: "absent", cracked: "absent" }, (id) => id)).toBe("All clear");
    expect(keepLabel(look, { gone: "present", cracked: "present" }, (id) => id)).toBe("Save: gone and cracked");
    expect(keepLabel(look, { gone: "absent" }, (id) => id)).toBe("Save this");
    expect(foundWords(look, { gone: "present", cracked: "present" }, (id) => id)).toBe("gone and cracked");
    expect(foundWords(look, { gone: "absent", cracked: "absent" }, (id) => id)).toBe("All clear");
  });
  it("takes one grade of wear, light or heavy, and of several heavy ones each that is so", () => {
    const grade = {
      id: "wheel",
      label: "Wheel",
      light: "hair",
      heavy: ["gone", "cracked", "elsewhere"],
      do: "Renew it",
    };
    const water = { id: "water", label: "Water", findings: ["none", "weak", "good"] };
    const c = { grades: [grade], groups: [water] } as unknown as Catalogue;
    const { worn, oneOf, single } = asked(c, ["hair", "gone", "cracked", "sand", "weak", "none"]);
    expect(single).toEqual(["sand"]);
    expect(oneOf).toEqual([{ label: "Water", options: ["none", "weak"] }]);
    expect(asked(c, ["weak"]).single).toEqual(["weak"]); // of one option alone there is nothing to choose
    const [w] = worn;
    if (!w) throw new Error("no grade");
    expect(w.heavy).toEqual(["gone", "cracked"]);
    const tap = (marks: Marks, ...taps: string[]) => taps.reduce((m, t) => graded(w, m, t), marks);
    const wheel = { ...look, settles: ["hair", "gone", "cracked"] };
    const kept = (...taps: string[]) => statedOf(wheel, tap({}, ...taps), worn);
    expect(kept("none").map((s) => s.state)).toEqual(["absent", "absent", "absent"]);
    expect(kept("hair")).toEqual([
      { id: "hair", state: "present" },
      { id: "gone", state: "absent" },
      { id: "cracked", state: "absent" },
    ]);
    expect(kept("hair", "gone", "cracked")).toEqual([
      { id: "gone", state: "present" },
      { id: "cracked", state: "present" },
    ]);
    expect(kept("gone", "cracked", "gone")).toEqual([{ id: "cracked", state: "present" }]);
    expect(kept("unsure").map((s) => s.state)).toEqual(["unsure", "unsure"]);
    expect(gradeOf(w, tap({}, "unsure"))).toEqual(["unsure"]);
    expect(gradeOf(w, tap({}, "none"))).toEqual(["none"]);
    expect(gradeOf(w, tap({}, "gone", "hair"))).toEqual(["hair"]);
    expect(gradeOf(w, {})).toEqual([]);
    const clear = allClear(wheel, tap({}, "gone"));
    expect(statedOf(wheel, clear, worn)).toEqual([
      { id: "gone", state: "present" },
      { id: "cracked", state: "absent" },
    ]);
  });
  it("asks only for what this engine can have", () => {
    expect(openFindings(catalogue, look, new Set(["vanes"]), [])).toEqual(["gone"]);
  });
  it("asks of what is only told what was not told yet, and looks at the rest again", () => {
    const possible = new Set(["vanes", "other"]);
    const told = [{ id: "gone", q: 0 }];
    expect(openFindings(catalogue, look, possible, told)).toEqual(["gone", "cracked"]);
    const question = { ...look, asks: true };
    expect(openFindings(catalogue, question, possible, told)).toEqual(["cracked"]);
    const oneOf = { ...catalogue, groups: [{ id: "g", label: "Blades", findings: ["gone", "cracked"] }] };
    expect(openFindings(oneOf, question, possible, [{ id: "gone", q: 1 }])).toEqual([]);
    expect(openFindings(oneOf, question, possible, told)).toEqual(["cracked"]);
  });
});

describe("a circuit", () => {
  const c = ["intake", "pump", "exchanger"];
  it("takes a station in where the water usually meets it", () => {
    expect(put(catalogue, c, "cooler")).toEqual(["intake", "pump", "cooler", "exchanger"]);
    expect(put(catalogue, c, "gauge")).toEqual([...c, "gauge"]);
  });
  it("moves stations and stops at the ends", () => {
    expect(moved(c, 0, 1)).toEqual(["pump", "intake", "exchanger"]);
    expect(moved(c, 0, -1)).toBe(c);
    expect(moved(c, 2, 1)).toBe(c);
  });
  it("offers what the family has and the circuit has not", () => {
    expect(absent(catalogue, "direct", c).map((s) => s.id)).toEqual(["cooler", "block", "gauge"]);
  });
});

describe("taps that wait", () => {
  const page = {
    card: { id: "j" },
    findings: [
      { id: "none", q: 1 },
      { id: "oily", q: 0 },
    ],
    history: [],
    log: [{ entry_id: "sent" }],
  } as unknown as JobPage;
  const tap = (id: string, body: object): Letter => ({
    id,
    path: `/jobs/j/entries/${id}`,
    body: { ...body },
    label: "",
  });
  const ids = (p: JobPage) => p.findings.map((f) => [f.id, f.q]);
  it("show at once, and drive the other options of a question out", () => {
    expect(
      ids(withWaiting(page, [tap("x", { kind: "finding", stated: [{ id: "weak", state: "present" }] })], catalogue)),
    ).toEqual([
      ["oily", 0],
      ["weak", 1],
    ]);
    expect(
      ids(withWaiting(page, [tap("x", { kind: "finding", stated: [{ id: "oily", state: "unknown" }] })], catalogue)),
    ).toEqual([["none", 1]]);
  });
  it("leave what was read at another operating point", () => {
    const at = { idle: {}, load: {} };
    const c = {
      ...catalogue,
      findings: [...catalogue.findings, { id: "rise", at }],
      checks: [...catalogue.checks, { id: "idling", point: "idle" }, { id: "loaded", point: "load" }],
    } as unknown as Catalogue;
    const known = { ...page, findings: [{ id: "rise", q: 0, point: "idle" }] };
    const of = (check: string) =>
      withWaiting(
        known,
        [tap("x", { kind: "check", check, stated: [{ id: "rise", state: "present" }] })],
        c,
      ).findings.map((f) => [f.point, f.q]);
    expect(of("loaded")).toEqual([
      ["idle", 0],
      ["load", 1],
    ]);
    expect(of("idling")).toEqual([["idle", 1]]);
    expect(of("look"), "not said at which").toEqual([[undefined, 1]]);
  });
  it("do not show twice, nor in another job", () => {
    const sent = tap("sent", { kind: "finding", stated: [{ id: "weak", state: "present" }] });
    expect(withWaiting(page, [sent, { ...sent, id: "y", path: "/jobs/k/entries/y" }], catalogue)).toEqual(page);
  });
});

describe("the handbook", () => {
  it("gathers what belongs to a station", () => {
    const c = chapterOf(catalogue, "pump");
    expect([c.faults, c.checks, c.findings].map((l) => l.map((x) => x.id))).toEqual([
      ["vanes"],
      ["look"],
      ["gone", "cracked"],
    ]);
  });
  it("finds what holds all the words", () => {
    const with_ = { ...catalogue, checks: [] };
    expect(search(with_, " BLADES  gone ").findings.map((f) => f.id)).toEqual(["gone"]);
    expect(search(with_, "").faults).toEqual([]);
  });
  it("says strengths and rates in the trade's words", () => {
    expect([0.95, 0.9, 0.7, 0.4, 0.2].map(strengthWords)).toEqual([
      "almost always",
      "nearly always",
      "mostly",
      "not seldom",
      "now and then",
    ]);
    expect([0.08, 0.04, 0.015, 0.005].map(rateWords)).toEqual(["very common", "common", "occasional", "rare"]);
  });
  it("tells what a finding would mean on this engine", () => {
    const w = wordsOf(catalogue);
    const c = {
      ...catalogue,
      findings: [
        {
          id: "f",
          causes: [
            { fault: "weed", strength: 0.4 },
            { fault: "vanes", strength: 0.95 },
            { fault: "debris", strength: 0.9 },
          ],
          at: { idle: { vanes: 0.6, weed: 0.1 } },
        },
      ],
    } as unknown as Catalogue;
    expect(meaning(c, "f", new Set(["weed", "vanes", "debris"]), w)).toBe("If so: the vanes, the debris, among others");
    expect(meaning(c, "f", new Set(["weed"]), w)).toBe("If so: the weed");
    expect(meaning(c, "f", new Set(), w)).toBe("");
    const all = new Set(["weed", "vanes", "debris"]);
    expect(meaning(c, "f", all, w, "idle")).toBe("If so: the vanes, among others");
    expect(meaning(c, "f", all, w, "load"), "told the same there").toBe("If so: the vanes, the debris, among others");
  });
});

describe("words", () => {
  it("for shares and moves", () => {
    expect([percent(0.004), percent(0.305), percent(0.999)]).toEqual(["under 1\u00a0%", "31\u00a0%", "over 99\u00a0%"]);
    expect(moveWords({ log_odds: Math.log(3) })).toBe("3.0× likelier");
    expect(moveWords({ log_odds: -Math.log(40) })).toBe("40× less likely");
  });
  it("for lines of the log", () => {
    const w = wordsOf(catalogue);
    const line = (l: Partial<LogLine>) =>
      logWords(
        { entry_id: "e", by: "K", at: "", undone: false, kind: "note", ...l } as LogLine,
        w,
        (v, unit) => `${v} ${unit}`,
      );
    expect(
      line({ kind: "check", check: "look", outcome: "done", minutes: 6, stated: [{ id: "gone", state: "present" }] }),
    ).toBe("look (6\u00a0min): Blades gone: yes");
    expect(line({ kind: "check", check: "look", outcome: "skipped", words: "No ladder." })).toBe(
      "look: not done. No ladder.",
    );
    expect(line({ kind: "closed", faults: ["vanes", "weed"], words: "Done" })).toBe(
      "Job closed. The vanes and The weed. Done",
    );
    expect(line({ kind: "access", access: "cover-off", open: false })).toBe("Cover off: closed up again");
    expect(line({ kind: "kept", changed: [{ field: "rated_kw", from: "60", to: "75" }] })).toBe("Rated kW: 60 → 75");
    expect(line({ kind: "unheard-of" })).toBe("unheard-of");
  });
});
