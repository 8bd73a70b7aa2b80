import { useEffect, useState } from "react";

/** A value once it stands for a while, ms: what comes and goes sooner is not drawn. */
export function useSettled<T>(value: T, within: number): T {
  const [shown, setShown] = useState(value);
  useEffect(() => {
    if (shown === value) return;
    const late = setTimeout(() => setShown(value), within);
    return () => clearTimeout(late);
  }, [value, shown, within]);
  return shown;
}
