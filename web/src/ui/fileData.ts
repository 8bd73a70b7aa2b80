/** A file as the program takes it. */
export async function base64Of(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const pieces: string[] = [];
  for (let i = 0; i < bytes.length; i += 0x8000) pieces.push(String.fromCharCode(...bytes.subarray(i, i + 0x8000)));
  return btoa(pieces.join(""));
}

/** One line of readings typed by hand: minutes from the start, coolant, and the gauge where it was read. */
export interface TypedLine {
  minutes: string;
  coolant: string;
  gauge: string;
}

/** Typed readings as the table of a logger, in the person's own unit; lines without a time and a coolant are left out. */
export function tableOf(lines: TypedLine[], symbol: string): string {
  const number = (t: string) => t.trim().replace("−", "-").replace(",", ".");
  const rows = lines
    .filter((l) => l.minutes.trim() && l.coolant.trim())
    .map((l) => [l.minutes, l.coolant, l.gauge].map(number).join(";"));
  return [`Time (min);Coolant (${symbol});Gauge (${symbol})`, ...rows, ""].join("\n");
}
