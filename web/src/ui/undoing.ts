import type { LogLine } from "../api/client";

/** What somebody put their name under, or what others built on. */
const signs = (l: LogLine) =>
  l.kind === "closed" || l.kind === "opened" || l.proving?.do === "sign" || l.proving?.do === "drop";

/** The newest line that stands, undos aside. */
export const lastOf = (log: LogLine[]) =>
  [...log].reverse().find((l) => !l.undone && l.kind !== "undo" && l.kind !== "opened");

/** One's own last tap is taken back at once; what is signed, another's or older is asked about first. */
export const asksFirst = (line: LogLine, log: LogLine[], writer: string) =>
  signs(line) || line.by !== writer || lastOf(log)?.entry_id !== line.entry_id;
