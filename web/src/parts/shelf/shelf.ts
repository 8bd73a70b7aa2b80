import { useCallback, useState } from "react";
import type { Schemas } from "../../api/client";
import { useKeep, useKeepUp } from "../../api/queries";
import { useNotice } from "../notice";
import { useWriter } from "../Shell";

export type ShelfLine = Schemas["ShelfLine"];
export type ShelfAct = Omit<Schemas["ShelfEntry"], "by" | "tapped_at">;
export type OnShelf = (act: ShelfAct, label: string) => void;

/** Keeps what is done on the shelf, with a way back; asks once for the name that stands beside it. */
export function useShelfActs() {
  const { undo } = useKeep();
  const { noteOnShelf } = useKeepUp();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const [asking, setAsking] = useState(false);
  const takeBack = useCallback(
    (entry: string) => void undo(entry).then(() => kept("Taken back"), failed),
    [undo, kept, failed],
  );
  const act: OnShelf = (a, label) => {
    if (!name) return setAsking(true);
    noteOnShelf(a, label).then((id) => kept(label, () => takeBack(id)), failed);
  };
  return { act, asking, setAsking };
}

export const amount = (n: number, unit?: string) =>
  `${Number(n.toFixed(2)).toString().replace("-", "−")}${unit ? `\u00a0${unit}` : ""}`;

/** A number as it is typed; nothing where it is none. */
export function numberOf(text: string): number | undefined {
  const n = Number(text.trim().replace(",", "."));
  return text.trim() === "" || Number.isNaN(n) ? undefined : n;
}

export const howWords: Record<Schemas["ShelfFit"]["how"], string> = {
  tried: "tried",
  measured: "measured",
  listed: "only listed",
};
