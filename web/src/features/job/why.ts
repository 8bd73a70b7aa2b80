import type { Schemas } from "../../api/client";

/** Beyond this nobody weighs any more. */
const certain = 1e5;

/** A move of log odds in words: how many times likelier the item made the suspect, or how many times less likely. */
export function moveWords(m: Pick<Schemas["Move"], "log_odds">): string {
  const times = Math.exp(Math.abs(m.log_odds));
  if (times > certain) return m.log_odds > 0 ? "seen" : "seen not to be"; // a fact, not a figure
  const figure = times >= 9.5 ? Math.round(times).toString() : times.toFixed(1);
  return m.log_odds > 0 ? `${figure}× likelier` : `${figure}× less likely`;
}
