/** A new id (UUID version 4). Plain HTTP to another host has no crypto.randomUUID: no tap is lost for that. */
export function newID(): string {
  if (typeof crypto.randomUUID === "function") return crypto.randomUUID();
  const b = crypto.getRandomValues(new Uint8Array(16));
  b.set([((b[6] ?? 0) & 0x0f) | 0x40], 6);
  b.set([((b[8] ?? 0) & 0x3f) | 0x80], 8);
  const hex = [...b].map((x) => x.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
}
