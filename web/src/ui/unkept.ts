import { useCallback, useEffect, useState } from "react";
import { isRecord, memory } from "../api/memory";

/** The beginning of the names under which a job's unkept answers are remembered; what they are in words follows. */
const beginning = (job: string) => `hevrin.unkept.${job}.`;

/**
 * What is typed or tapped and not yet saved: it survives a change of pane, a reload, a dead battery, until it is saved
 * or dropped. What is as it was saved is nothing unkept.
 */
export function useUnkept<T extends object>(job: string, what: string, saved: T, fits = isRecord) {
  const name = beginning(job) + what;
  const [draft, setDraft] = useState<T>(() => {
    const kept = memory.read(name, (x): x is T & Record<string, unknown> => fits(x));
    return kept === undefined ? saved : { ...saved, ...kept };
  });
  const asSaved = JSON.stringify(saved);
  useEffect(() => {
    if (JSON.stringify(draft) === asSaved) memory.set(name, undefined);
    else memory.write(name, draft);
  }, [name, draft, asSaved]);
  const forget = useCallback(() => void memory.set(name, undefined), [name]);
  return [draft, setDraft, forget] as const;
}

/** What of a job was typed or tapped on this device and not saved, in words. */
export const unkeptOf = (job: string) => memory.names(beginning(job)).map((n) => n.slice(beginning(job).length));

export const drop = (job: string, what: string) => memory.set(beginning(job) + what, undefined);
