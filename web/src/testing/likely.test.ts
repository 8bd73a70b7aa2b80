import { expect, test } from "vitest";
import type { Catalogue, Schemas } from "../api/client";
import { likely } from "../features/job/likely";
import { asked, type Marks } from "../features/job/outcome";

const catalogue = {
  grades: [{ id: "wear", label: "How worn", light: "worn-light", heavy: ["worn", "torn"] }],
  groups: [{ id: "flow", label: "How much comes", findings: ["much", "little", "none"] }],
} as unknown as Catalogue;
const of = (settles: string[], marks: Marks = {}) =>
  likely({
    catalogue,
    check: { id: "look", settles } as unknown as Schemas["Check"],
    marks,
    minutes: 4,
    ...asked(catalogue, settles),
  });
const said = (settles: string[], marks?: Marks) =>
  of(settles, marks).map((e) => (e.stated ?? []).map((s) => `${s.id} ${s.state}`).join(", ") || e.outcome);

test("while nothing is tapped: all clear, each thing by itself, and that it told nothing", () => {
  expect(said(["leak", "noise"])).toEqual([
    "leak absent, noise absent",
    "leak present",
    "noise present",
    "inconclusive",
  ]);
  expect(of(["leak"])[0]).toEqual({
    kind: "check",
    check: "look",
    minutes: 4,
    outcome: "done",
    stated: [{ id: "leak", state: "absent" }],
  });
});

test("what was tapped: alone, and with none of the others", () => {
  expect(said(["leak", "noise"], { noise: "present" })).toEqual(["noise present", "leak absent, noise present"]);
});

test("a grade of wear and the options of a question are answered as a tap answers them", () => {
  expect(said(["worn-light", "worn", "torn"])).toContain("worn-light present, worn absent, torn absent");
  expect(said(["worn-light", "worn", "torn"])).toContain("worn present");
  expect(said(["much", "little", "none"])).toContain("little present");
});

test("not more than a phone's battery bears", () => {
  expect(of(["a", "b", "c", "d", "e", "f", "g", "h", "i", "j"])).toHaveLength(8);
});
