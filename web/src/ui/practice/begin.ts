import { useState } from "react";
import { beginPractice, Refused, type Schemas } from "../../api/client";
import { newID } from "../../api/ids";
import { link } from "../../api/link";
import { onThisDevice } from "../../api/practice";
import { writer } from "../../api/writer";

export type Choice = Omit<Schemas["PracticeBegun"], "by" | "tapped_at">;

/** Begins a practice and goes there: its pages are a program of their own. */
export function useBegin() {
  const [failed, setFailed] = useState<string>();
  const [busy, setBusy] = useState(false);
  const begin = (choice: Choice) => {
    const id = newID();
    setBusy(true);
    setFailed(undefined);
    beginPractice(id, { ...choice, by: writer.by() }).then(
      (p) => window.location.assign(`/practice/${id}/jobs/${p.job_id}`),
      (e: unknown) => {
        // no link: this device draws the same engine from the same code
        if (!(e instanceof Refused) && link.down()) {
          onThisDevice.add(id, choice);
          return window.location.assign(`/practice/${id}`);
        }
        setBusy(false);
        setFailed(e instanceof Error ? e.message : "It could not be begun: try again.");
      },
    );
  };
  return { begin, busy, failed };
}
