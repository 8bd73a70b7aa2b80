import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useFresh } from "../../api/queries";
import { useSave } from "../../api/writes";
import { isCrossed } from "../../ui/Crossed";
import { useNotice } from "../../ui/notices";
import { useWriter } from "../../ui/Shell";

type Task = Schemas["Task"];

/** Changes what the yard goes by, with a way to take it back; asks who it is where nobody said so. */
export function useWrite() {
  const { noteMethod, undo } = useSave();
  const { kept, failed } = useNotice();
  const fresh = useFresh();
  const name = useWriter();
  const [asking, setAsking] = useState(false);
  const [crossed, setCrossed] = useState<{ task: Task; say: string }>();
  const write = (entry: Omit<Schemas["MethodEntry"], "by">, label: string) => {
    if (!name) return setAsking(true);
    setCrossed(undefined);
    noteMethod(entry, label).then(
      (id) => kept(label, () => void undo(id).then(() => kept("Taken back"), failed)),
      (e: unknown) => {
        if (isCrossed(e)) fresh(); // both are to be looked at
        if (entry.task && isCrossed(e)) setCrossed({ task: entry.task, say: e.message });
        else failed(e);
      },
    );
  };
  const takeBack = (id: string) => void undo(id).then(() => kept("Taken back"), failed);
  return { write, takeBack, asking, setAsking, crossed, leave: () => setCrossed(undefined) };
}
