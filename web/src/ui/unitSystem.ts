import { useSyncExternalStore } from "react";
import { unitsName, type UnitSystem } from "../api/client";
import { memory } from "../api/memory";

export const systems: { id: UnitSystem; label: string }[] = [
  { id: "metric", label: "Metric" },
  { id: "us", label: "US" },
  { id: "imperial", label: "Imperial" },
];

function snapshot(): UnitSystem {
  const kept = memory.text(unitsName);
  return systems.find((s) => s.id === kept)?.id ?? "metric";
}

export function chooseSystem(s: UnitSystem) {
  memory.set(unitsName, s);
}

/** The units that a person likes, kept on this device. */
export const useSystem = () => useSyncExternalStore((l) => memory.subscribe(unitsName, l), snapshot);
