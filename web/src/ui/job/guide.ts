import { useSyncExternalStore } from "react";
import { memory } from "../../api/memory";
import { writer } from "../../api/writer";
import type { Step } from "./steps";

const name = "hevrin.guide";

const isList = (x: unknown): x is string[] => Array.isArray(x);

/** A device on which nobody wrote yet is led through its first job: what each step is for stands open. */
export function beginGuide() {
  if (!writer.snapshot() && memory.text(name) === undefined) memory.write(name, []);
}

/** Whether what a step is for still stands open, and how it is folded away for good. */
export function useGuide(step: Step): [boolean, () => void] {
  const text = useSyncExternalStore(
    (l) => memory.subscribe(name, l),
    () => memory.text(name),
  );
  const understood = memory.read(name, isList);
  const leads = text !== undefined && understood !== undefined && !understood.includes(step);
  return [leads, () => leads && memory.write(name, [...understood, step])];
}
