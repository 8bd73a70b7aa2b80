import { useSyncExternalStore } from "react";
import type { UnitSystem } from "../api/client";

const shelf = "hevrin.units";
const listeners = new Set<() => void>();

export const systems: { id: UnitSystem; label: string }[] = [
  { id: "metric", label: "Metric" },
  { id: "us", label: "US" },
  { id: "imperial", label: "Imperial" },
];

function snapshot(): UnitSystem {
  const kept = localStorage.getItem(shelf);
  return systems.find((s) => s.id === kept)?.id ?? "metric";
}

export function chooseSystem(s: UnitSystem) {
  localStorage.setItem(shelf, s);
  listeners.forEach((l) => l());
}

/** The units that a person likes, kept on this device. */
export const useSystem = () =>
  useSyncExternalStore((l) => {
    listeners.add(l);
    return () => listeners.delete(l);
  }, snapshot);
