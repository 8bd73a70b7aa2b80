import { useEffect } from "react";

interface Actions {
  next: () => void;
  complaint: () => void;
  log: () => void;
  undo: () => void;
}

const keyOf: Record<string, keyof Actions> = { c: "complaint", n: "next", l: "log", u: "undo" };

/** The keys, as shown beside what they do. */
export const shownKeys: Record<string, string> = { complaint: "C", next: "N", log: "L", undo: "U" };

/** Keys at the desk. Typing in a field is typing. */
export function useJobKeys(actions: Actions) {
  useEffect(() => {
    const pressed = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      if (e.ctrlKey || e.metaKey || e.altKey || target.closest("input, textarea, [role=dialog]")) return;
      const action = keyOf[e.key.toLowerCase()];
      if (action) actions[action]();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  });
}
