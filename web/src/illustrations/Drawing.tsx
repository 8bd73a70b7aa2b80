import { Plate } from "./pen";
import { plates } from "./plates";

/** A plate in a state, as the catalogue's drawings say it. */
export interface Shows {
  plate?: string;
  view?: string;
  show?: Record<string, number>;
}

interface Props {
  of: Shows;
  /** Words for those who do not see it; none where words stand beside it. */
  label?: string;
  small?: boolean;
  width?: number | string;
}

/** Draws a plate. A plate that this program does not know is left out: its words stand beside it. */
export default function Drawing({ of, ...sheet }: Props) {
  const draw = plates[of.plate ?? ""];
  if (!draw) return null;
  return <Plate {...sheet}>{draw({ view: of.view ?? "", show: (name) => of.show?.[name] ?? 0 })}</Plate>;
}
