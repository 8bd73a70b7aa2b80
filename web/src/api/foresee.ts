import { link } from "./link";
import type { JobEntry } from "./writes";

/** How long after a check came in sight its answers are thought through, ms: what is drawn comes first. */
const after = 300;

/**
 * Where the phone goes on by itself, has its program work out what follows each answer that may come, so that the one
 * that does is answered sooner. Nothing is saved. The return ends it.
 */
export function foresee(job: string, answers: JobEntry[]): () => void {
  const ends = new AbortController();
  let begun = false;
  const begin = () => {
    if (begun || !link.alone()) return;
    begun = true;
    void import("./phone").then(({ phone }) => phone.foresee(job, answers, ends.signal)).catch(() => undefined);
  };
  const timer = setTimeout(begin, after);
  const unsubscribe = link.subscribe(begin); // its program may be ready later than the check is drawn
  return () => {
    clearTimeout(timer);
    unsubscribe();
    ends.abort();
  };
}
