import { useCallback, useState } from "react";
import type { Schemas } from "../../api/client";
import { useSave } from "../../api/writes";
import { useNotice } from "../notices";
import { useWriter } from "../Shell";

export type DueItem = Schemas["DueItem"];
export type DueState = Schemas["DueState"];

export const stateWords: Record<DueState, string> = {
  overdue: "Overdue",
  soon: "Soon",
  later: "Later",
  unknown: "Not known",
};

export type OnUpkeep = (
  engine: string,
  entry: { meter?: Schemas["Meter"]; upkeep?: Schemas["MaintenanceAct"] },
  label: string,
) => void;

/** Keeps what is said of an engine's maintenance, with a way back; asks once for the name that stands beside it. */
export function useMaintenance() {
  const { noteMaintenance, undo } = useSave();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const [asking, setAsking] = useState(false);
  const takeBack = useCallback(
    (entry: string) => void undo(entry).then(() => kept("Taken back"), failed),
    [undo, kept, failed],
  );
  const say: OnUpkeep = (engine, entry, label) => {
    if (!name) return setAsking(true);
    noteMaintenance(engine, entry, label).then((id) => kept(label, () => takeBack(id)), failed);
  };
  return { say, asking, setAsking };
}

/** Today as the program takes a day. */
export const today = () => new Date().toISOString().slice(0, 10);

/** So many days from today. */
export const daysOn = (n: number) => new Date(Date.now() + n * 86_400_000).toISOString().slice(0, 10);

const month = new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric" });

/** A day as well as a trend tells it. */
export function about(iso: string): string {
  const d = new Date(iso);
  const part = d.getUTCDate() <= 10 ? "early" : d.getUTCDate() > 20 ? "late" : "mid";
  return `${part} ${month.format(d)}`;
}

/** A figure of a trend in its unit. */
export function told(unit: string, v: number, error = 0): string {
  const [scale, digits, symbol] = unit === "percent" ? [100, 0, "%"] : [1, unit === "h" ? 0 : 1, unit];
  const text = (x: number) => (x * scale).toFixed(digits).replace("-", "−");
  return `${text(v)}${error ? ` ± ${text(Math.abs(error))}` : ""}\u00a0${symbol}`;
}

/** What else is worth doing with an item, by its groups. */
export function beside(
  item: DueItem,
  groups: Schemas["DueGroup"][],
  due: DueItem[],
): { label: string; items: string[] }[] {
  return groups
    .filter((g) => g.items.includes(item.item))
    .map((g) => ({
      label: g.label,
      items: g.items.filter((i) => i !== item.item).flatMap((i) => due.find((d) => d.item === i)?.do ?? []),
    }))
    .filter((g) => g.items.length > 0);
}
