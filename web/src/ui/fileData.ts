/** One line of readings typed by hand: minutes from the start, coolant, and the gauge where it was read. */
export interface TypedLine {
  minutes: string;
  coolant: string;
  gauge: string;
}

/** Typed readings as the table of a logger, in the person's own unit; lines without time or coolant are left out. */
export function tableOf(lines: TypedLine[], symbol: string): string {
  const number = (t: string) => t.trim().replace("−", "-").replace(",", ".");
  const rows = lines
    .filter((l) => l.minutes.trim() && l.coolant.trim())
    .map((l) => [l.minutes, l.coolant, l.gauge].map(number).join(";"));
  return [`Time (min);Coolant (${symbol});Gauge (${symbol})`, ...rows, ""].join("\n");
}
