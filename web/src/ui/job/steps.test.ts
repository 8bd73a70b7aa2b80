import { describe, expect, it } from "vitest";
import type { JobPage } from "../../api/client";
import { hands, jobOf } from "../../testing/show";
import { nextStep, stepsOf } from "./steps";

const run = (over: object) => ({ id: "r", open: true, outcome: "open", stages: [], ...over });
const signed = { by: "Tam", at: "2026-05-18T10:18:00Z", words: "" };
const page = (over: object): JobPage => jobOf(over as Partial<JobPage>);
const diagnosis = (found: string[]) => ({ found, suspects: [], next_checks: [] });
const proving = (...runs: object[]) => ({ runs, recordings: [], has_feed: false });
const look = { check: "look" };
const openEnd = { id: "parts", ok: false, stands: true, label: "Parts", overridden: "" };

describe("the steps of a job", () => {
  const cases: [string, object, string, string[]][] = [
    ["a new job", {}, "complaint", ["nothing told", "not begun", "not begun", "no run yet", "as it stands"]],
    ["one that is traced", { checks: [look] }, "find", ["nothing told", "1 check", "not begun", "no run yet"]],
    [
      "a cause found",
      {
        card: { id: "j", complaint: ["hot"], faults: ["vanes"] },
        diagnosis: diagnosis(["vanes"]),
        hands: hands({ conditions: [openEnd] as never }),
      },
      "repair",
      ["1 sign", "1 found", "1 open", "no run yet"],
    ],
    [
      "put right, and something still open",
      { diagnosis: diagnosis(["vanes"]), repaired: [{ fault: "vanes" }], hands: hands({ ready: false }) },
      "repair",
      ["nothing told", "not begun", "put right"],
    ],
    [
      "put right and ready",
      { diagnosis: diagnosis(["vanes"]), repaired: [{ fault: "vanes" }], hands: hands({ ready: true }) },
      "prove",
      [],
    ],
    ["of two one put right", { diagnosis: diagnosis(["vanes", "belt"]), repaired: [{ fault: "vanes" }] }, "repair", []],
    ["a run that goes on", { proving: proving(run({})) }, "prove", ["", "", "", "run goes on"]],
    [
      "a dropped run",
      { proving: proving(run({ open: false, dropped: signed })) },
      "complaint",
      ["", "", "", "no run yet"],
    ],
    ["cured", { proving: proving(run({ open: false, signed, outcome: "cured" })) }, "report", ["", "", "", "cured"]],
    [
      "cured, and something found since",
      { diagnosis: diagnosis(["belt"]), proving: proving(run({ open: false, signed, outcome: "cured" })) },
      "repair",
      ["", "", "", "found since"],
    ],
    [
      "not cured",
      { checks: [look], proving: proving(run({ open: false, signed, outcome: "not-cured" })) },
      "find",
      ["", "", "", "not cured"],
    ],
    ["closed", { closed: { faults: [] } }, "report", ["", "", "", "", "closed"]],
  ];
  it.each(cases)("%s", (_, over, next, states) => {
    const p = page(over);
    expect(nextStep(p)).toBe(next);
    const steps = stepsOf(p);
    expect(steps.map((s) => s.label)).toEqual(["Complaint", "Find", "Repair", "Prove", "Report"]);
    states.forEach((s, i) => s && expect(steps[i]?.state).toBe(s));
  });
});
