import type { Catalogue, Schemas, Stated } from "../../api/client";
import type { DrawnOf } from "../../ui/drawings";
import { lower, type Words } from "../../ui/words";

export type Mark = "present" | "absent" | "unknown" | "unsure";
export type Marks = Record<string, Mark | undefined>;

/** A round of readings settles many things at once: it is not cleared by one touch. */
export const manyFrom = 6;

/** A look at what wears, as far as a check shows it on this engine. */
export interface Worn {
  grade: Schemas["Grade"];
  light: string;
  heavy: string[];
}

/** A question of which one option is so. */
export interface OneOf {
  label: string;
  options: string[];
}

interface Asked {
  worn: Worn[];
  oneOf: OneOf[];
  single: string[];
}

/** What a check is asked of: grades of wear, questions with options, and single things; what stands in one is not asked
 * by itself. */
export function asked(c: Catalogue, open: string[]): Asked {
  const worn = c.grades
    .filter((g) => open.includes(g.light))
    .map((grade) => ({ grade, light: grade.light, heavy: grade.heavy.filter((h) => open.includes(h)) }))
    .filter((w) => w.heavy.length > 0);
  const oneOf = c.groups
    .map((g) => ({ label: g.label, options: g.findings.filter((f) => open.includes(f)) }))
    .filter((g) => g.options.length > 1);
  const inWorn = (id: string) => worn.some((w) => w.light === id || w.heavy.includes(id));
  const inOneOf = (id: string) => oneOf.some((g) => g.options.includes(id));
  return { worn, oneOf, single: open.filter((id) => !inWorn(id) && !inOneOf(id)) };
}

/** A tap on a grade: none of it, the light one, not sure, or a heavy one, of which there may be several at once. */
export function graded({ light, heavy }: Worn, marks: Marks, tap: string): Marks {
  const all = (mark: Mark | undefined) => Object.fromEntries(heavy.map((h) => [h, mark]));
  switch (tap) {
    case "none":
      return { ...marks, ...all("absent"), [light]: "absent" };
    case "unsure":
      return { ...marks, ...all("unsure"), [light]: undefined };
    case light:
      return { ...marks, ...all("absent"), [light]: "present" };
  }
  const others = heavy.filter((h) => h !== tap).map((h) => [h, marks[h] === "present" ? "present" : undefined]);
  const again = marks[tap] === "present" ? undefined : "present";
  return { ...marks, ...Object.fromEntries(others), [light]: undefined, [tap]: again };
}

/** How an answer of a grade looks: none of it as its light one should look; not sure looks like nothing. */
export function gradeDrawn(w: Worn, drawn: DrawnOf["answer"], id: string) {
  if (id === "none") return drawn(w.light, "absent");
  return id === "unsure" ? undefined : drawn(id, "present");
}

/** Which answers of a grade stand. */
export function gradeOf({ light, heavy }: Worn, marks: Marks): string[] {
  if (marks[light] === "present") return [light];
  const seen = heavy.filter((h) => marks[h] === "present");
  if (seen.length > 0) return seen;
  if (heavy.some((h) => marks[h] === "unsure")) return ["unsure"];
  return marks[light] === "absent" ? ["none"] : [];
}

/** What a check's taps come to: what was tapped, as tapped. A row that nobody touched is unknown, never no; where the
 * heavy grade of wear is seen, nothing is said of the light one. */
export function statedOf(check: Schemas["Check"], marks: Marks, worn: Worn[] = []): Stated[] {
  const hidden = worn.filter((w) => w.heavy.some((h) => marks[h] === "present" || marks[h] === "unsure"));
  return check.settles.flatMap((id) => {
    const state = hidden.some((w) => w.light === id) ? undefined : marks[id];
    return state ? [{ id, state }] : [];
  });
}

/** A tap on one thing: of a question with several options the one that is so drives the others out. */
export function marked(c: Catalogue, marks: Marks, id: string, mark: Mark | undefined): Marks {
  const group = mark === "present" ? c.groups.find((g) => g.findings.includes(id)) : undefined;
  const others = group?.findings.filter((f) => f !== id && marks[f] !== undefined) ?? [];
  return { ...marks, ...Object.fromEntries(others.map((f) => [f, "absent" as const])), [id]: mark };
}

/** What was not tapped is not there: an act of its own. */
export const allClear = (check: Schemas["Check"], marks: Marks): Marks =>
  Object.fromEntries(check.settles.map((id) => [id, marks[id] ?? "absent"]));

/** What was found at a check, in words: for the notice that it is saved. */
export function foundWords(check: Schemas["Check"], marks: Marks, label: (id: string) => string): string {
  const yes = check.settles.filter((id) => marks[id] === "present");
  if (yes.length > 0) return yes.map(label).join(" and ");
  return check.settles.every((id) => marks[id] === "absent") ? "All clear" : "saved";
}

/** The button that keeps the outcome says what it will keep. */
export function keepLabel(check: Schemas["Check"], marks: Marks, label: (id: string) => string): string {
  const yes = check.settles.filter((id) => marks[id] === "present");
  if (yes.length > 0) return `Save: ${yes.map(label).join(" and ")}`;
  return check.settles.every((id) => marks[id] === "absent") ? "All clear" : "Save this";
}

/** The findings that this engine can have, of those a check settles; of what is only asked, what was not told yet. */
export function openFindings(
  c: Catalogue,
  check: Schemas["Check"],
  possible: Set<string>,
  told: Pick<Schemas["Statement"], "id" | "q">[],
): string[] {
  const answered = (id: string) =>
    told.some((s) => s.id === id) ||
    c.groups.some((g) => g.findings.includes(id) && told.some((s) => s.q > 0.5 && g.findings.includes(s.id)));
  return check.settles.filter((id) => {
    const f = c.findings.find((x) => x.id === id);
    return f && [...f.causes, ...f.blocks].some((l) => possible.has(l.fault)) && !(check.asks && answered(id));
  });
}

/** What makes a finding show, and how surely: a reading as the engine model has it at an operating point. */
function causesOf(c: Catalogue, finding: string, point = ""): { fault: string; strength: number }[] {
  const f = c.findings.find((x) => x.id === finding);
  const there = f?.at?.[point];
  return there ? Object.entries(there).map(([fault, strength]) => ({ fault, strength })) : (f?.causes ?? []);
}

/** What a finding would mean on this engine: the faults that make it show most surely, at most three. */
export function meaning(c: Catalogue, finding: string, possible: Set<string>, words: Words, point?: string): string {
  const causes = causesOf(c, finding, point)
    .filter((l) => possible.has(l.fault))
    .sort((a, b) => b.strength - a.strength);
  const most = causes.filter((l) => l.strength >= (causes[0]?.strength ?? 0) - 0.05).slice(0, 3);
  if (most.length === 0) return "";
  const rest = causes.length > most.length ? ", among others" : "";
  return `If so: ${most.map((l) => lower(words.fault(l.fault))).join(", ")}${rest}`;
}
