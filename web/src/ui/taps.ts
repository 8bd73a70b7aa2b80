import { useCallback, useState } from "react";
import { useSave, type JobEntry } from "../api/writes";
import { useNotice } from "./notices";
import { useWriter } from "./Shell";

/** Keeps what is tapped in a job, with a way back; asks once for the name that stands beside it. */
export function useTaps(job: string) {
  const { noteInJob, undo } = useSave();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const [asking, setAsking] = useState(false);
  const takeBack = useCallback(
    (entry: string) => void undo(entry).then(() => kept("Taken back"), failed),
    [undo, kept, failed],
  );
  const keep = useCallback(
    (entry: JobEntry, label: string, photo?: Blob) => {
      if (!name) return setAsking(true);
      noteInJob(job, entry, label, photo).then((id) => kept(label, () => takeBack(id)), failed);
    },
    [name, job, noteInJob, kept, takeBack, failed],
  );
  return { keep, takeBack, asking, setAsking };
}
