import type { Schemas } from "../api/client";

/** What of the record's place must be seen to, in sentences, the most pressing first. */
export const recordTold = (r: Schemas["RecordHealth"]): string[] =>
  [
    r.say,
    r.clock,
    r.chain,
    r.second_copy?.say,
    r.backup.at_start && "at the next start the record goes back to an earlier backup",
    r.backup.old && "no good backup was made for two days",
    r.backup.say,
  ].flatMap((t) => (t ? [`${t.charAt(0).toUpperCase()}${t.slice(1)}.`] : []));
