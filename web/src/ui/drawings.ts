import { useMemo } from "react";
import type { Schemas } from "../api/client";
import { useDrawings } from "../api/queries";

type Drawing = Schemas["Drawing"];

/** What is drawn for each thing of the catalogue; nothing while that is not known. */
export interface DrawnOf {
  /** What a screen or a kind of work begins with. */
  screen: (id: string) => Drawing | undefined;
  station: (id: string) => Drawing | undefined;
  check: (id: string) => Drawing | undefined;
  access: (id: string) => Drawing | undefined;
  /** What an answer looks like, or how it should look. */
  answer: (finding: string, is: "present" | "absent") => Drawing | undefined;
  /** A fault that was found, gone as far as a share says. */
  fault: (id: string, share?: number) => Drawing | undefined;
  item: (task: string, item: string) => Drawing | undefined;
  /** A step of a task; nothing where the task has other steps than were drawn. */
  step: (task: Pick<Schemas["Task"], "id" | "steps">, i: number) => Drawing | undefined;
  after: (task: Pick<Schemas["Task"], "id" | "after">, i: number) => Drawing | undefined;
  /** A drawing in words. */
  says: (of?: Drawing) => string;
}

/** The drawings, for the circuit of an engine where one is meant: a drive leg is drawn as one. */
export function useDrawn(circuit?: string[]): DrawnOf {
  const { data } = useDrawings();
  return useMemo(() => drawnOf(data, circuit), [data, circuit]);
}

const inStep = (list?: Drawing[], lines?: string[]) => (list?.length === lines?.length ? list : undefined);

/** Reads the drawings; without them nothing is drawn. */
export function drawnOf(d: Schemas["Drawings"] | undefined, circuit?: string[]): DrawnOf {
  const onLeg = circuit !== undefined && !circuit.includes("seacock");
  const on = (x?: Drawing) => {
    const other = onLeg && x?.plate ? d?.on_leg[x.plate] : undefined;
    return other ? { ...x, plate: other } : x;
  };
  return {
    screen: (id) => d?.screens[id],
    station: (id) => on(d?.stations[id]),
    check: (id) => on(d?.checks[id]),
    access: (id) => on(d?.access[id]),
    answer: (id, is) => on(d?.findings[id]?.[is]),
    fault: (id, share) => {
      const f = d?.faults[id];
      if (!f?.extent || share === undefined) return on(f?.drawing);
      return on({ ...f.drawing, show: { ...f.drawing.show, [f.extent]: share } });
    },
    item: (task, item) => on(d?.items[`${task}/${item}`] ?? d?.items[item]),
    step: (task, i) => on(inStep(d?.steps[task.id], task.steps)?.[i]),
    after: (task, i) => on(inStep(d?.after[task.id], task.after)?.[i]),
    says: (of) => d?.plates.find((p) => p.id === of?.plate)?.says ?? "",
  };
}
