import type { Schemas } from "../../api/client";

export type Drive = Schemas["PumpDrive"];

/** What turns a raw-water pump, in the trade's words. */
export const driveWords: Record<Drive, string> = { belt: "Belt", gear: "Gear", crank: "Crankshaft", cam: "Camshaft" };

/** What is known of an engine's raw-water pump, to go on a sentence with: its plate, and what turns it. */
export function pumpWords({ raw_pump, cooling }: Pick<Schemas["Engine"], "raw_pump" | "cooling">): string {
  const [plate, drive] = [raw_pump && ` ${raw_pump}`, cooling.pump_drive];
  const driven = drive ? ` driven by ${driveWords[drive].toLowerCase()}` : "";
  return plate || driven ? `, raw-water pump${plate}${driven}` : "";
}
