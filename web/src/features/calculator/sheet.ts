import { useCallback } from "react";
import type { FieldError, Calculator, CalculatorField, UnitSystem } from "../../api/client";
import { convert, convertError, type Units } from "../../ui/units";
import { isRecord } from "../../api/memory";
import { useDraft } from "../../ui/draft";

/** What stands in a field: what was typed, a choice, the parts of a group, rows, or a table as text. */
export type Entry = string | boolean | Group | Entry[];
export interface Group {
  [field: string]: Entry | undefined;
}

/**
 * A calculator as it stands on this device: what was given, and
 * the unit chosen for a field, by its path without row numbers.
 */
export interface Sheet {
  given: Group;
  units: Record<string, string>;
}

const isSheet = (x: unknown) => isRecord(x) && isRecord(x.given) && isRecord(x.units);
const blank: Sheet = { given: {}, units: {} };

/** The sheet of a calculator; it outlives a reload. */
export function useSheet(name: string) {
  const [sheet, setSheet] = useDraft(`hevrin.sum.${name}`, blank, isSheet);
  const give = useCallback(
    (field: string, entry: Entry | undefined) => setSheet((s) => ({ ...s, given: { ...s.given, [field]: entry } })),
    [setSheet],
  );
  const choose = useCallback(
    (path: string, unit: string) => setSheet((s) => ({ ...s, units: { ...s.units, [path]: unit } })),
    [setSheet],
  );
  const fill = useCallback((given: Group) => setSheet((s) => ({ given, units: s.units })), [setSheet]);
  return { sheet, give, choose, fill };
}

/** Whether a field matters beside its neighbours. */
export function matters(field: CalculatorField, all: CalculatorField[], given: Group): boolean {
  if (!field.only_if) return true;
  const neighbour = all.find((f) => f.name === field.only_if?.field);
  return field.only_if.is.includes(String(given[field.only_if.field] ?? neighbour?.default));
}

/** The unit in which a field is typed: the one chosen for it, or the system's. */
export function unitFor(field: CalculatorField, path: string, sheet: Sheet, units: Units, system: UnitSystem) {
  const id = field.unit ?? "1";
  return units.find(sheet.units[path] ?? "") ?? units.shownAs(id, system) ?? units.find(id);
}

const bare = /^[\d\s.,+\-−–/:±e]+$/i;

/** What is sent for what stands in the fields: bare numbers carry the unit in which they were typed. */
export function asked(
  fields: CalculatorField[],
  sheet: Sheet,
  units: Units,
  system: UnitSystem,
): Record<string, unknown> {
  return group(fields, sheet.given, "", (f, text, path) => {
    const unit = unitFor(f, path, sheet, units, system);
    const clock = unit?.dimension === "time" && text.includes(":");
    return unit && unit.id !== f.unit && !clock && bare.test(text) ? `${text} ${unit.symbol}` : text;
  });
}

type Typed = (f: CalculatorField, text: string, path: string) => string;

function group(fields: CalculatorField[], given: Group, path: string, typed: Typed): Record<string, unknown> {
  const out: Record<string, unknown> = {};
  for (const f of fields) {
    const v = matters(f, fields, given) ? one(f, given[f.name], path + f.name, typed) : undefined;
    if (v !== undefined) out[f.name] = v;
  }
  return out;
}

const isGroup = (e: Entry | undefined): e is Group => typeof e === "object" && !Array.isArray(e);

const kinds: Record<CalculatorField["kind"], (f: CalculatorField, e: Entry, path: string, typed: Typed) => unknown> = {
  number: (f, e, path, typed) => (typeof e === "string" && e.trim() ? typed(f, e.trim(), path) : undefined),
  integer: (_, e) => (typeof e === "string" && e.trim() ? e.trim() : undefined),
  text: (_, e) => (typeof e === "string" && e.trim() ? e.trim() : undefined),
  choice: (_, e) => (typeof e === "string" && e ? e : undefined),
  "yes-no": (_, e) => (typeof e === "boolean" ? e : undefined),
  group: (f, e, path, typed) => (isGroup(e) ? group(f.fields ?? [], e, path + ".", typed) : undefined),
  rows: (f, e, path, typed) => {
    if (typeof e === "string") return e.trim() || undefined;
    if (!Array.isArray(e)) return undefined;
    return e
      .filter(isGroup)
      .map((row) => group(f.fields ?? [], row, path + ".", typed))
      .filter((row) => Object.keys(row).length > 0);
  },
  numbers: (f, e, path, typed) => {
    if (!Array.isArray(e)) return undefined;
    return e.filter((t): t is string => typeof t === "string" && t.trim() !== "").map((t) => typed(f, t.trim(), path));
  },
};

const one = (f: CalculatorField, e: Entry | undefined, path: string, typed: Typed) =>
  e === undefined ? undefined : kinds[f.kind](f, e, path, typed);

/** A question as it came from the program, as it would have been typed in a system's units. */
export function typedIn(
  fields: CalculatorField[],
  given: Record<string, unknown>,
  units: Units,
  system: UnitSystem,
): Group {
  const out: Group = {};
  for (const f of fields) {
    const v = given[f.name];
    if (v !== undefined && v !== null) out[f.name] = typedOne(f, v, units, system);
  }
  return out;
}

function typedOne(f: CalculatorField, v: unknown, units: Units, system: UnitSystem): Entry {
  const from = units.find(f.unit ?? "");
  const to = units.shownAs(f.unit ?? "", system);
  const number = (x: number) => String(Number((from && to ? convert(x, from, to) : x).toPrecision(4)));
  const inner = (x: unknown) => typedIn(f.fields ?? [], x as Record<string, unknown>, units, system);
  if (typeof v === "number") return number(v);
  if (typeof v === "boolean" || typeof v === "string") return v;
  if (Array.isArray(v)) return v.map((x) => (f.kind === "rows" ? inner(x) : typedOne(f, x, units, system)));
  if (f.kind === "group") return inner(v);
  const { value, error } = v as { value: number; error: number };
  return from && to ? `${number(value)} ± ${Number(convertError(error, from, to).toPrecision(3))}` : String(value);
}

/** What is missing still, and what does not fit, by field. */
export function slips(errors: FieldError[]) {
  const missing = errors.filter((e) => e.given === "nothing");
  const wrong = new Map(errors.filter((e) => e.given !== "nothing").map((e) => [e.field, e]));
  return { missing, wrong };
}

/** The labels of a path such as hot.inlet_c, as in "Hot side: In". */
export function labelOf(sum: Calculator, path: string): string {
  const words: string[] = [];
  let fields: CalculatorField[] | undefined = sum.fields;
  for (const part of path.split(".")) {
    const m = /^([^[]+)(?:\[(\d+)\])?$/.exec(part);
    const f: CalculatorField | undefined = fields?.find((x) => x.name === m?.[1]);
    if (!f) break;
    words.push(m?.[2] ? `${f.label} ${Number(m[2]) + 1}` : f.label);
    fields = f.fields;
  }
  return words.join(": ") || path;
}
