import { useSyncExternalStore } from "react";
import type { Light } from "./theme";

const shelf = "hevrin.light";
const listeners = new Set<() => void>();
const paper = () => window.matchMedia?.("print");
const dark = () => window.matchMedia?.("(prefers-color-scheme: dark)").matches;

/** Paper is white, whatever the screen was. */
function snapshot(): Light {
  if (paper()?.matches) return "deck";
  const kept = localStorage.getItem(shelf);
  return kept === "deck" || kept === "engine-space" ? kept : dark() ? "engine-space" : "deck";
}

export function turnLight() {
  localStorage.setItem(shelf, snapshot() === "deck" ? "engine-space" : "deck");
  listeners.forEach((l) => l());
}

export const useLight = () =>
  useSyncExternalStore((l) => {
    listeners.add(l);
    paper()?.addEventListener("change", l);
    return () => {
      listeners.delete(l);
      paper()?.removeEventListener("change", l);
    };
  }, snapshot);
