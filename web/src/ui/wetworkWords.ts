import type { Schemas } from "../api/client";

type WetworkAct = Schemas["WetworkAct"];

export const stageLabels: Record<string, string> = {
  rinsed: "Rinsed: the strip reads as the tap",
  neutralised: "Neutralised before it went anywhere",
  refitted: "Anodes in, new seals, joints tight",
};

/** "pH 4.2, fizz weak, 31 °C, green". */
function bathText(a: WetworkAct): string {
  const { ph, fizz, temp_c, colour } = a.bath ?? {};
  const warm = temp_c !== undefined && `${temp_c} °C`;
  const list = [ph !== undefined && `pH ${ph}`, fizz && `fizz ${fizz}`, warm, colour];
  return list.filter(Boolean).join(", ");
}

const litres = (a: WetworkAct) => `${a.litres ?? 0} L`;

const says: Partial<Record<WetworkAct["do"], (a: WetworkAct) => string>> = {
  begin: () => "Begun",
  stop: () => "Paused",
  read: bathText,
  "came-out": (a) =>
    `Came out: ${a.what ?? ""}${a.share ? `, ${a.share} of a blade` : ""}${a.words ? `, ${a.words}` : ""}`,
  drained: (a) => `${litres(a)} out`,
  filled: (a) => `${litres(a)} in`,
  topped: (a) => `${litres(a)} topped up`,
  strength: (a) => `Strength ${a.percent ?? 0} %`,
  stage: (a) => stageLabels[a.what ?? ""] ?? a.what ?? "",
  waste: (a) => `Waste: ${a.what ?? ""}, ${litres(a)}, ${a.words ?? ""}`,
  end: (a) => `Ended${a.words ? `: ${a.words}` : ""}`,
};

/** What an act of wet work says in a list. */
export const actText = (a: WetworkAct) => says[a.do]?.(a) ?? a.do;
