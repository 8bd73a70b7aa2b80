import { useSyncExternalStore } from "react";
import { unitsName, type UnitSystem } from "../api/client";
import { memory } from "../api/memory";

export const systems: { id: UnitSystem; label: string; such: string }[] = [
  { id: "metric", label: "Metric", such: "°C, litres, millimetres" },
  { id: "us", label: "US", such: "°F, US gallons, inches" },
  { id: "imperial", label: "Imperial", such: "°C, imperial gallons, inches" },
];

/** What was chosen on this device; nothing before anybody did. */
export const chosenSystem = (): UnitSystem | undefined => systems.find((s) => s.id === memory.text(unitsName))?.id;

/** What is usual where the browser is at home. */
export const systemByLocale = (language = navigator.language): UnitSystem =>
  /-(US|LR|MM)$/i.test(language) ? "us" : "metric";

const snapshot = (): UnitSystem => chosenSystem() ?? "metric";

export function chooseSystem(s: UnitSystem) {
  memory.set(unitsName, s);
}

/** The units that a person likes, kept on this device. */
export const useSystem = () => useSyncExternalStore((l) => memory.subscribe(unitsName, l), snapshot);
