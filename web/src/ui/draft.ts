import { useCallback, useEffect, useState } from "react";
import { isRecord, memory } from "../api/memory";

/**
 * What is typed outlives a reload: remembered on the device under a name until it is forgotten. What was remembered and
 * does not fit any more is as if nothing had been typed.
 */
export function useDraft<T extends object>(name: string, empty: T, fits: (x: unknown) => boolean = isRecord) {
  const [draft, setDraft] = useState<T>(() => {
    const kept = memory.read(name, (x): x is T => fits(x));
    return kept === undefined ? empty : Array.isArray(empty) ? kept : { ...empty, ...kept };
  });
  useEffect(() => void memory.write(name, draft), [name, draft]);
  const forget = useCallback(() => void memory.set(name, undefined), [name]);
  return [draft, setDraft, forget] as const;
}
