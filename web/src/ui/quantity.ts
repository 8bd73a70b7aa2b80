import { useCalculators } from "../api/queries";
import { convert, digits, shown, unitsOf, type Said } from "./units";
import { useSystem } from "./unitSystem";

const none = unitsOf([]);

/** A quantity as the reader reads and types it, kept in a unit of the program's. */
export function useQuantity(unit: string) {
  const system = useSystem();
  const list = useCalculators().data?.units;
  const units = list ? unitsOf(list) : none;
  const base = units.find(unit);
  const own = units.shownAs(unit, system);
  return {
    symbol: own?.symbol ?? base?.symbol ?? unit,
    shown: (v?: number) => (v === undefined ? "" : base && own ? digits(convert(v, base, own), own) : String(v)),
    /** What was typed, in the program's unit; nothing where it is no number. */
    read: (text: string | undefined) => {
      const typed = (text ?? "").trim().replace(",", ".");
      const v = Number(typed);
      if (typed === "" || !Number.isFinite(v)) return undefined;
      return base && own ? Math.round(convert(v, own, base) * 1e4) / 1e4 : v;
    },
  };
}

/** Says quantities as the reader reads them. */
export function useSaid(): Said {
  const system = useSystem();
  const list = useCalculators().data?.units;
  const units = list ? unitsOf(list) : none;
  return (value, unit) => (list ? shown(units, system, value, unit) : `${value}`);
}
