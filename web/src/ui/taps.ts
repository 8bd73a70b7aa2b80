import { useCallback, useRef, useState } from "react";
import { writer } from "../api/writer";
import { useSave, type JobEntry } from "../api/writes";
import { useNotice } from "./notices";

interface Tap {
  entry: JobEntry;
  label: string;
  photo?: Blob;
}

/** What must stand under a person's own name. */
const signed = (e: JobEntry) => e.proving?.do === "sign" || e.strip?.do === "override";

/**
 * Keeps what is tapped in a job, with a way back. The first tap of a device without a name asks for one; it is kept
 * meanwhile, and saved when the question is answered, with a name or without. What is signed waits for a name.
 */
export function useTaps(job: string) {
  const { noteInJob, undo } = useSave();
  const { kept, failed } = useNotice();
  const held = useRef<Tap>(undefined);
  const [asking, setOpen] = useState(false);
  const takeBack = useCallback(
    (entry: string) => void undo(entry).then(() => kept("Taken back"), failed),
    [undo, kept, failed],
  );
  const send = useCallback(
    ({ entry, label, photo }: Tap) =>
      void noteInJob(job, entry, label, photo).then((id) => kept(label, () => takeBack(id)), failed),
    [job, noteInJob, kept, takeBack, failed],
  );
  const keep = useCallback(
    (entry: JobEntry, label: string, photo?: Blob) => {
      const tap = { entry, label, photo };
      if (writer.snapshot() || !(writer.toAsk() || signed(entry))) return send(tap);
      held.current = tap;
      setOpen(true);
    },
    [send],
  );
  const setAsking = useCallback(
    (open: boolean) => {
      setOpen(open);
      const tap = held.current;
      if (open || !tap) return;
      held.current = undefined;
      writer.asked();
      if (signed(tap.entry) && !writer.snapshot()) failed("Not saved: a signature needs a name.");
      else send(tap);
    },
    [send, failed],
  );
  return { keep, takeBack, asking, setAsking };
}
