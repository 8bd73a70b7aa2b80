import type { Schemas, UnitSystem } from "./client";

/** The names under which answers are held: one place makes them, so that what was changed is found. */
export const keys = {
  catalogue: () => ["catalogue"] as const,
  drawings: () => ["drawings"] as const,
  calculators: () => ["calculators"] as const,
  types: () => ["types"] as const,
  health: () => ["record-health"] as const,
  backups: () => ["backups"] as const,
  yard: () => ["yard"] as const,
  lists: () => ["lists"] as const,
  people: () => ["people"] as const,
  devices: () => ["devices"] as const,
  audit: () => ["audit"] as const,
  labels: () => ["labels"] as const,
  pushing: () => ["pushing"] as const,
  accountNews: () => ["account-news"] as const,
  calendar: () => ["calendar"] as const,
  present: (job: string) => ["present", job] as const,
  links: (of: string) => ["links", of] as const,
  setUp: () => ["set-up"] as const,
  search: (words: string) => ["search", words] as const,
  craft: (id: string) => ["craft", id] as const,
  engine: (id: string) => ["engine", id] as const,
  job: (id: string) => ["job", id] as const,
  recording: (job: string, id: string) => ["recording", job, id] as const,
  drafts: (job: string) => ["drafts", job] as const,
  report: (job: string, units: UnitSystem) => ["report", job, units] as const,
  record: (engine: string) => ["record", engine] as const,
  state: (engine: string) => ["state", engine] as const,
  due: () => ["due"] as const,
  inventory: (engine?: string, task?: string) => ["inventory", engine, task].filter((x) => x !== undefined),
  supplier: (find: string) => ["supplier", find] as const,
  methods: () => ["methods"] as const,
  practiceHome: () => ["practice-home"] as const,
  practice: (id: string) => ["practice", id] as const,
  practicePeople: () => ["practice-people"] as const,
  practiceBench: () => ["practice-bench"] as const,
  practiceReview: (id: string) => ["practice-review", id] as const,
  live: (engine: string, address: string) => ["live", engine, address] as const,
  /** Questions whose answers hang on nothing but the question. */
  pure: (kind: PureKind, ...question: unknown[]) => [kind, ...question] as const,
};

export type PureKind = "answer" | "should" | "health" | "limits" | "facts";

/** What may show something else once an entry of a kind of subject was added; a job's or an engine's own by its id. */
export const touchedBy: Record<Schemas["SubjectKind"], (id: string) => readonly (readonly unknown[])[]> = {
  job: (id) => [
    keys.job(id),
    ["report", id],
    ["recording", id],
    keys.yard(),
    ["engine"],
    ["record"],
    ["state"],
    keys.due(),
    ["inventory"],
  ],
  engine: (id) => [
    keys.engine(id),
    keys.record(id),
    keys.state(id),
    ["job"],
    ["report"],
    keys.yard(),
    keys.due(),
    ["inventory"],
    ["live", id],
  ],
  craft: (id) => [keys.craft(id), keys.yard(), ["engine"], ["job"], ["report"], keys.due(), ["inventory"]],
  yard: () => [keys.methods(), keys.lists(), keys.people(), ["inventory"], ["job"]],
};
