import { useSyncExternalStore } from "react";
import { memory } from "../api/memory";
import type { Light } from "../theme/theme";

const name = "hevrin.light";
const paper = () => window.matchMedia?.("print");
const dark = () => window.matchMedia?.("(prefers-color-scheme: dark)").matches;

/** Paper is white, whatever the screen was. */
function snapshot(): Light {
  if (paper()?.matches) return "deck";
  const chosen = memory.text(name);
  return chosen === "deck" || chosen === "engine-space" ? chosen : dark() ? "engine-space" : "deck";
}

export const turnLight = () => void memory.set(name, snapshot() === "deck" ? "engine-space" : "deck");

export const useLight = () =>
  useSyncExternalStore((l) => {
    const leave = memory.subscribe(name, l);
    paper()?.addEventListener("change", l);
    return () => {
      leave();
      paper()?.removeEventListener("change", l);
    };
  }, snapshot);
