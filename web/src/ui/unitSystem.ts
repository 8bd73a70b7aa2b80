import { useSyncExternalStore } from "react";
import type { UnitSystem } from "../api/client";
import { memory } from "../api/memory";

const name = "hevrin.units";

export const systems: { id: UnitSystem; label: string }[] = [
  { id: "metric", label: "Metric" },
  { id: "us", label: "US" },
  { id: "imperial", label: "Imperial" },
];

function snapshot(): UnitSystem {
  const kept = memory.text(name);
  return systems.find((s) => s.id === kept)?.id ?? "metric";
}

export function chooseSystem(s: UnitSystem) {
  memory.set(name, s);
}

/** The units that a person likes, kept on this device. */
export const useSystem = () => useSyncExternalStore((l) => memory.subscribe(name, l), snapshot);
