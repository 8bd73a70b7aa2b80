import { useCallback, useState } from "react";
import type { Schemas } from "../api/client";
import { useSave } from "../api/writes";
import { useNotice } from "./notices";
import { useWriter } from "./Shell";

export type InventoryLine = Schemas["InventoryLine"];
export type InventoryAct = Omit<Schemas["InventoryEntry"], "by" | "tapped_at">;
/** Does an act and says whether it is kept: what is refused was told, and what was typed stays. */
export type OnShelf = (act: InventoryAct, label: string) => Promise<boolean>;

/** Keeps what is done in stock, with a way back; asks once for the name that stands beside it. */
export function useInventoryActs() {
  const { noteInInventory, undo } = useSave();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const [asking, setAsking] = useState(false);
  const takeBack = useCallback(
    (entry: string) => void undo(entry).then(() => kept("Taken back"), failed),
    [undo, kept, failed],
  );
  const act: OnShelf = async (a, label) => {
    if (!name) {
      setAsking(true);
      return false;
    }
    try {
      const id = await noteInInventory(a, label);
      kept(label, () => takeBack(id));
      return true;
    } catch (e) {
      failed(e);
      return false;
    }
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

export const howWords: Record<Schemas["PartFit"]["how"], string> = {
  tried: "tried",
  measured: "measured",
  listed: "only listed",
};

type Names = Pick<Schemas["Inventory"], "engines" | "pumps">;

/** How many engines with a pump are named before the rest is only counted. */
const mostNamed = 3;

const howSaid: Record<Schemas["PartFit"]["how"], string> = {
  tried: "Tried on",
  measured: "Measured for",
  listed: "Only listed for",
};

/** What a part fits, a sentence for each way in which that is known; of a pump also the other engines that have it. */
export function fitsSaid(fits: Schemas["PartFit"][], names: Names): string[] {
  const nameOf = (f: Schemas["PartFit"]) => names.engines[f.engine ?? ""] ?? "an engine that was taken away";
  const said = new Set(fits.filter((f) => !f.pump).map(nameOf));
  const aboard = (pump: string) => {
    const others = (names.pumps[pump] ?? []).filter((n) => !said.has(n));
    const rest = others.length - mostNamed;
    const list = [...others.slice(0, mostNamed), ...(rest > 0 ? [`${String(rest)} more`] : [])];
    if (list.length > 0) return `pump ${pump} (${list.join("; ")})`;
    return (names.pumps[pump] ?? []).length > 0 ? `pump ${pump}` : `pump ${pump} (on no engine here)`;
  };
  return (Object.keys(howSaid) as (keyof typeof howSaid)[]).flatMap((how) => {
    const list = fits.filter((f) => f.how === how).map((f) => (f.pump ? aboard(f.pump) : nameOf(f)));
    return list.length > 0 ? [`${howSaid[how]} ${list.join("; ")}`] : [];
  });
}
