import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { nextStage, stageAfter } from "../proving/run";
import { show } from "../../testing/show";
import { unitsOf } from "../../ui/units";
import { ReportSheet } from "./ReportSheet";

const unit = (id: string, symbol: string, factor: number, shift: number, us: string) => ({
  id,
  dimension: "temperature",
  symbol,
  factor,
  shift,
  decimals: 1,
  shown_as: { metric: "degC", us, imperial: "degC" },
});
const units = unitsOf([unit("degC", "°C", 1, 0, "degF"), unit("degF", "°F", 5 / 9, -32, "degF")]);

const report = (over: Partial<Schemas["Report"]> = {}): Schemas["Report"] => ({
  craft: "Skiff",
  owner: "O",
  berth: "B",
  engine: "Main, diesel",
  opened: "2026-05-14T08:00:00Z",
  by: "Ide",
  minutes: 30,
  outcome: "cured",
  verdict: "Cured",
  says: "Proved.",
  signed: "Signed by Ide, 14 May 2026",
  complaint: "Hot",
  signs: ["Came gradually"],
  causes: [{ label: "Exchanger tubes scaled", remedy: "Descale", evidence: ["tubes crusted"] }],
  figures: [{ label: "Exchanger", before: "38 ± 3 %", after: "99 ± 9 %" }],
  against: "a typical engine of this kind",
  pictures: [],
  done: ["Stack out"],
  parts: [{ label: "Anode", number: "ZN-12", state: "new", quantity: 2, price: 12.4 }],
  total: 12.4,
  proof: [{ label: "Prime", standing: "passed", say: "Water after 11 s" }],
  photos: [],
  more_photos: 0,
  due: [],
  mind: ["Look for drips"],
  cautions: ["Never open a hot cap"],
  ...over,
});

const sheet = (over: Partial<Schemas["Report"]> = {}, system: "metric" | "us" = "metric") =>
  show(<ReportSheet report={report(over)} units={units} system={system} />);

describe("the owner's report", () => {
  it("says what was wrong, what it came to, and that it is right", () => {
    sheet();
    expect(screen.getByText("Cured")).toBeInTheDocument();
    expect(screen.getByText(/Signed by Ide/)).toBeInTheDocument();
    expect(screen.getByText("tubes crusted")).toBeInTheDocument();
    expect(screen.getByRole("cell", { name: "38 ± 3 %" })).toBeInTheDocument();
    expect(screen.getByRole("cell", { name: "99 ± 9 %" })).toBeInTheDocument();
    expect(screen.getAllByText("12.40")).toHaveLength(2);
    expect(screen.getByText("Never open a hot cap")).toBeInTheDocument();
  });
  it("leaves the column of after away where nothing was read after", () => {
    sheet({ figures: [{ label: "Exchanger", before: "38 ± 3 %", after: "" }] });
    expect(screen.queryByRole("columnheader", { name: "after" })).toBeNull();
    expect(screen.getByRole("columnheader", { name: "read" })).toBeInTheDocument();
  });
  it("says so where nothing is known", () => {
    sheet({ causes: [], figures: [], proof: [], parts: [], done: [], mind: [], cautions: [] });
    expect(screen.getByText("No cause is named.")).toBeInTheDocument();
    expect(screen.getByText("No readings were taken that tell it.")).toBeInTheDocument();
    expect(screen.queryByRole("region", { name: "The test run" })).toBeNull();
  });
  it("draws the path in the reader's own degrees", () => {
    const path = {
      before: "before",
      after: "after",
      points: [{ label: "Thermostat", side: "coolant", should_c: 84, spread_k: 4, before_c: 99, after_c: 84 }],
    };
    sheet({ path }, "us");
    expect(
      screen.getByRole("img", { name: /Thermostat: before 210\.2.°F, after 183\.2.°F, healthy 183\.2.°F/ }),
    ).toBeInTheDocument();
  });
});

const stages = (...list: [Schemas["RunStageID"], Schemas["Standing"]][]) =>
  ({ stages: list.map(([id, standing]) => ({ id, standing })) }) as unknown as Schemas["ProvingRun"];

describe("what is next in a run", () => {
  it("is the first stage that is not settled, one that failed too", () => {
    expect(
      nextStage(stages(["ready", "passed"], ["prime", "failed"], ["cold-leaks", "waiting"], ["verdict", "failed"])),
    ).toBe("prime");
    expect(
      nextStage(stages(["ready", "passed"], ["prime", "excused"], ["cold-leaks", "waiting"], ["verdict", "waiting"])),
    ).toBe("cold-leaks");
    expect(nextStage(stages(["ready", "passed"], ["prime", "excused"], ["verdict", "waiting"]))).toBe("verdict");
  });
  it("can be gone on to after a failure", () => {
    const run = stages(["prime", "failed"], ["cold-leaks", "passed"], ["warm-up", "waiting"], ["verdict", "waiting"]);
    expect(stageAfter(run, "prime")?.id).toBe("warm-up");
    expect(stageAfter(run, "warm-up")?.id).toBe("verdict");
  });
});
