import type { Schemas } from "../api/client";
import type { Said } from "./units";

type WetworkAct = Schemas["WetworkAct"];

export const stageLabels: Record<string, string> = {
  rinsed: "Rinsed: the strip reads as the tap",
  neutralised: "Neutralised before it went anywhere",
  refitted: "Anodes in, new seals, joints tight",
};

/** "pH 4.2, fizz weak, 31 °C, green". */
function bathText(a: WetworkAct, said: Said): string {
  const { ph, fizz, temp_c, colour } = a.bath ?? {};
  const warm = temp_c !== undefined && said(temp_c, "degC");
  const list = [ph !== undefined && `pH ${ph}`, fizz && `fizz ${fizz}`, warm, colour];
  return list.filter(Boolean).join(", ");
}

const litres = (a: WetworkAct, said: Said) => said(a.litres ?? 0, "L");

const says: Partial<Record<WetworkAct["do"], (a: WetworkAct, said: Said) => string>> = {
  begin: () => "Begun",
  stop: () => "Paused",
  read: bathText,
  "came-out": (a) =>
    `Came out: ${a.what ?? ""}${a.share ? `, ${a.share} of a blade` : ""}${a.words ? `, ${a.words}` : ""}`,
  drained: (a, said) => `${litres(a, said)} out`,
  filled: (a, said) => `${litres(a, said)} in`,
  topped: (a, said) => `${litres(a, said)} topped up`,
  strength: (a) => `Strength ${a.percent ?? 0} %`,
  stage: (a) => stageLabels[a.what ?? ""] ?? a.what ?? "",
  waste: (a, said) => `Waste: ${a.what ?? ""}, ${litres(a, said)}, ${a.words ?? ""}`,
  end: (a) => `Ended${a.words ? `: ${a.words}` : ""}`,
};

/** What an act of wet work says in a list, its quantities as the reader reads them. */
export const actText = (a: WetworkAct, said: Said) => says[a.do]?.(a, said) ?? a.do;
