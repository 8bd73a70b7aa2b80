import type { Catalogue, JobPage, Statement, Stated } from "./client";
import type { Letter } from "./letters";

/**
 * A job's page with the taps laid over it that still wait for a link, so that they show at once. The diagnosis stays
 * that of the last answer: it is the program's to compute.
 */
export function withWaiting(page: JobPage, waiting: Letter[], catalogue: Catalogue): JobPage {
  return waiting
    .filter((l) => l.path.startsWith(`/jobs/${page.card.id}/entries/`) && !page.log.some((x) => x.entry_id === l.id))
    .reduce((p, l) => {
      const stated = (l.body.stated ?? []) as Stated[];
      return l.body.kind === "history"
        ? { ...p, history: stated.reduce((list, s) => restate(list, s, l, []), p.history) }
        : {
            ...p,
            findings: stated.reduce(
              (list, s) => restate(list, s, l, rivals(catalogue, s), pointOf(catalogue, l, s)),
              p.findings,
            ),
          };
    }, page);
}

/** The other options of a question drop out when one is stated present. */
const rivals = (c: Catalogue, s: Stated) =>
  s.state === "present" ? (c.groups.find((g) => g.findings.includes(s.id))?.findings ?? []) : [];

/** The operating point that a reading is judged at; nothing of what tells the same at each. */
function pointOf(c: Catalogue, letter: Letter, s: Stated): string | undefined {
  const point = c.checks.find((k) => k.id === letter.body.check)?.point;
  return point !== undefined && c.findings.find((f) => f.id === s.id)?.at?.[point] ? point : undefined;
}

function restate(list: Statement[], s: Stated, letter: Letter, out: string[], point?: string): Statement[] {
  const elsewhere = (k: Statement) => point !== undefined && k.point !== undefined && k.point !== point;
  const rest = list.filter((k) => (k.id !== s.id || elsewhere(k)) && !out.includes(k.id));
  if (s.state === "unknown") return rest;
  const { by = "", tapped_at = "" } = letter.body as { by?: string; tapped_at?: string };
  const is = { id: s.id, q: s.state === "present" ? 1 : 0, by, at: tapped_at, entry_id: letter.id };
  return [...rest, point === undefined ? is : { ...is, point }];
}
