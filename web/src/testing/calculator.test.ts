import { describe, expect, it } from "vitest";
import type { Picture, Schemas, Calculator, CalculatorField, Unit } from "../api/client";
import { extent, inUnits, label, minutesAlong } from "../ui/chart/picture";
import { bandOf, placesOf, roundOf, standing, typedNumber } from "../ui/readings/rounds";
import { asked, labelOf, matters, slips, typedIn, unitFor } from "../features/calculator/sheet";
import { clockTime, convert, convertError, digits, shown, shownError, unitsOf } from "../ui/units";

const unit = (u: Partial<Unit> & { id: string; dimension: string; symbol: string }): Unit => ({
  factor: 1,
  shift: 0,
  decimals: 1,
  shown_as: { metric: u.id, us: u.id, imperial: u.id },
  ...u,
});

const units = unitsOf([
  unit({ id: "1", dimension: "number", symbol: "", decimals: 2 }),
  unit({
    id: "degC",
    dimension: "temperature",
    symbol: "°C",
    shown_as: { metric: "degC", us: "degF", imperial: "degC" },
  }),
  unit({ id: "degF", dimension: "temperature", symbol: "°F", factor: 5 / 9, shift: -32 }),
  unit({
    id: "L/min",
    dimension: "volume-flow",
    symbol: "L/min",
    shown_as: { metric: "L/min", us: "gal-us/min", imperial: "L/min" },
  }),
  unit({ id: "gal-us/min", dimension: "volume-flow", symbol: "US gpm", factor: 3.785411784, decimals: 2 }),
  unit({ id: "s", dimension: "time", symbol: "s" }),
  unit({ id: "min", dimension: "time", symbol: "min", factor: 60 }),
]);

const field = (f: Partial<CalculatorField> & { name: string; kind: CalculatorField["kind"] }): CalculatorField => ({
  label: f.name,
  optional: false,
  more: false,
  ...f,
});

const fields: CalculatorField[] = [
  field({
    name: "fluid",
    kind: "group",
    label: "Which water",
    fields: [
      field({ name: "kind", kind: "choice", default: "sea" }),
      field({ name: "salinity", kind: "number", unit: "1", only_if: { field: "kind", is: ["sea"] } }),
    ],
  }),
  field({ name: "flow", kind: "number", unit: "L/min", label: "Flow" }),
  field({ name: "inlet", kind: "number", unit: "degC" }),
  field({ name: "tries", kind: "numbers", unit: "s" }),
  field({
    name: "rows",
    kind: "rows",
    label: "Readings",
    fields: [field({ name: "t", kind: "number", unit: "degC", label: "Water" }), field({ name: "up", kind: "yes-no" })],
  }),
];

describe("units", () => {
  const [c, f] = [units.find("degC"), units.find("degF")];
  if (!c || !f) throw new Error("no units");
  it("turns values and errors, each its own way", () => {
    expect(convert(160, f, c)).toBeCloseTo(71.11, 2);
    expect(convert(100, c, f)).toBeCloseTo(212, 9);
    expect(convertError(10, c, f)).toBeCloseTo(18, 9);
  });
  it("shows what is worth showing in the person's system", () => {
    expect(shown(units, "metric", 71.111, "degC")).toBe("71.1\u00a0°C");
    expect(shown(units, "us", 71.111, "degC")).toBe("160.0\u00a0°F");
    expect(shown(units, "us", 45.425, "L/min")).toBe("12.00\u00a0US gpm");
    expect(shownError(units, "us", 1, "degC")).toBe("1.8");
    expect(shown(units, "metric", 452, "s")).toBe("7:32\u00a0min");
    expect(shown(units, "metric", 13.1, "s")).toBe("13.1\u00a0s");
    expect(shown(units, "metric", 36.458, "g/mol")).toBe("36.46 g/mol");
  });
  it("keeps two figures of what is small and none too many of what is large", () => {
    expect(digits(0.00019, units.find("1"))).toBe("0.00019");
    expect(digits(3, units.find("1"))).toBe("3");
    expect(digits(11707.1, c)).toBe("11707");
    expect(digits(-0.001, c)).toBe("−0.0010");
    expect(digits(-1e-12, c)).toBe("0.0");
    expect(clockTime(59.6)).toBe("1:00");
  });
});

describe("the sheet", () => {
  const sheet = (given: Parameters<typeof matters>[2], chosen: Record<string, string> = {}) => ({
    given,
    units: chosen,
  });
  it("sends bare numbers with the unit in which they were typed", () => {
    const s = sheet({ flow: "12", inlet: "160F", tries: ["12,5", "", "1:30"] }, { flow: "gal-us/min" });
    expect(asked(fields, s, units, "metric")).toEqual({ flow: "12 US gpm", inlet: "160F", tries: ["12,5", "1:30"] });
    expect(asked(fields, sheet({ inlet: "160 ± 2" }), units, "us")).toEqual({ inlet: "160 ± 2 °F" });
    expect(asked(fields, sheet({ inlet: "71" }), units, "metric")).toEqual({ inlet: "71" });
    expect(asked(fields, sheet({ tries: ["2", "1:30"] }, { tries: "min" }), units, "us")).toEqual({
      tries: ["2 min", "1:30"],
    });
  });
  it("leaves out what is empty and what does not matter", () => {
    const s = sheet({ fluid: { kind: "fresh", salinity: "35" }, flow: " ", rows: [{ t: "60", up: true }, {}] });
    expect(asked(fields, s, units, "metric")).toEqual({ fluid: { kind: "fresh" }, rows: [{ t: "60", up: true }] });
    expect(asked(fields, sheet({ rows: "t\n1\n" }), units, "metric")).toEqual({ rows: "t\n1" });
    const inner = fields[0]?.fields ?? [];
    expect(inner.map((f) => matters(f, inner, {}))).toEqual([true, true]); // sea is the default
  });
  it("types a question that comes from the program in the person's units", () => {
    const given = {
      flow: 45.425,
      inlet: { value: 60, error: 1 },
      tries: [12, 13],
      rows: [{ t: 100, up: false }],
      fluid: { kind: "sea" },
    };
    expect(typedIn(fields, given, units, "us")).toEqual({
      flow: "12",
      inlet: "140 ± 1.8",
      tries: ["12", "13"],
      rows: [{ t: "212", up: false }],
      fluid: { kind: "sea" },
    });
    expect(typedIn(fields, { flow: "12 gpm" }, units, "metric")).toEqual({ flow: "12 gpm" });
  });
  it("chooses the unit of the field, else the system's", () => {
    const f = fields[2];
    if (!f) throw new Error("no field");
    expect(unitFor(f, "inlet", sheet({}), units, "us")?.id).toBe("degF");
    expect(unitFor(f, "inlet", sheet({}, { inlet: "degC" }), units, "us")?.id).toBe("degC");
  });
  it("tells what is missing from what is wrong, by label", () => {
    const e = (f: string, given: string) => ({ field: f, given, allowed: "", say: "" });
    const { missing, wrong } = slips([e("flow", "nothing"), e("rows[1].t", "-300")]);
    expect(missing.map((m) => m.field)).toEqual(["flow"]);
    expect([...wrong.keys()]).toEqual(["rows[1].t"]);
    const sum = { fields } as Calculator;
    expect(labelOf(sum, "rows[1].t")).toBe("Readings 2: Water");
    expect(labelOf(sum, "fluid.kind")).toBe("Which water: kind");
    expect(labelOf(sum, "elsewhere")).toBe("elsewhere");
  });
});

describe("a picture", () => {
  const picture: Picture = {
    title: "The run",
    x: { label: "Time", unit: "s" },
    y: { label: "Coolant", unit: "degC" },
    lines: [{ label: "Coolant", role: "hot", x: [0, 600], y: [20, 84], dots: false }],
    bands: [{ label: "Should", role: "should", across: "y", from: 78, to: 90 }],
    limits: [{ label: "Rating", role: "plain", across: "y", at: 82 }],
    marks: [{ label: "Opened", x: 450, y: 81 }],
    bars: [],
  };
  it("is drawn in the person's units, with everything in view", () => {
    const d = inUnits(picture, units, "us");
    expect(d.lines[0]?.y).toEqual([68, 183.2]);
    const [low, high] = extent(d, "y");
    expect(low).toBeLessThan(68);
    expect(high).toBeGreaterThan(194);
    expect(extent({ ...d, lines: [], marks: [], limits: [], bands: [] }, "x")).toEqual([0, 1]);
  });
  it("writes whole minutes along a time", () => {
    const d = inUnits(picture, units, "metric");
    expect(minutesAlong([0, 600], d.x)).toEqual([0, 120, 240, 360, 480, 600]);
    expect(minutesAlong([0, 600], d.y)).toBeUndefined();
  });
  it("is told in words", () => {
    expect(label(inUnits(picture, units, "metric"))).toContain("Opened: 81.0\u00a0°C at 7:30");
  });
});

describe("a round", () => {
  const state = {
    raw_l_min: 50,
    readings: [
      { station: "intake", side: "raw", temp_c: 16, spread_k: 0 },
      { station: "exchanger", side: "coolant", temp_c: 65, spread_k: 2 },
      { station: "exchanger", side: "raw", temp_c: 24, spread_k: 1 },
      { station: "thermostat", side: "coolant", temp_c: 85, spread_k: 1.5 },
      { station: "gauge", side: "coolant", temp_c: 85, spread_k: 2 },
    ],
  } as Schemas["PlantState"];
  const places = placesOf(state, false);
  it("goes in flow order, then the coolant, the gauge and the flow", () => {
    expect(places.map((p) => p.key)).toEqual([
      "exchanger.raw",
      "exchanger.coolant",
      "thermostat.coolant",
      "gauge.coolant",
      "flow",
    ]);
  });
  it("knows what is too high and too low, by the instrument's error too", () => {
    const [exchanger] = places;
    if (!exchanger) throw new Error("no place");
    expect(standing(exchanger, 26, "contact")).toBe("right");
    expect(standing(exchanger, 27.5, "contact")).toBe("high");
    expect(standing(exchanger, 27.5, "surface")).toBe("right");
    expect(standing(exchanger, 18, "contact")).toBe("low");
    expect(bandOf(exchanger, "contact")?.[0]).toBeCloseTo(24 - 2 * Math.SQRT2, 9);
  });
  it("sends what was typed in the program's own units and leaves out what was not", () => {
    expect(typedNumber("180F", "degC", units, "metric")).toBeCloseTo(82.22, 2);
    expect(typedNumber("82", "degC", units, "us")).toBeCloseTo(27.78, 2);
    expect(typedNumber("82,5", "degC", units, "metric")).toBe(82.5);
    expect(typedNumber("hot", "degC", units, "metric")).toBeUndefined();
    const op = { rpm: 2400, sea_c: 16 };
    expect(
      roundOf(
        op,
        { "exchanger.raw": "27", "exchanger.coolant": "70", flow: "48", "gauge.coolant": "x" },
        places,
        (key) => ({ instrument: "surface", surface: key === "exchanger.raw" ? "matt" : "rust" }),
        1.2,
        units,
        "metric",
      ),
    ).toEqual({
      operation: op,
      readings: [
        { station: "exchanger", side: "raw", value: 27, instrument: "surface" },
        { station: "exchanger", side: "coolant", value: 70, instrument: "surface", surface: "rust" },
        { station: "flow", value: 48, instrument: "bucket", error: 1.2 },
      ],
    });
  });
});
