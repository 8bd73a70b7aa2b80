import { memory } from "./memory";

/** Who is writing on this device: their name stands beside everything they note. */
const name = "hevrin.writer";

export const writer = {
  subscribe: (listener: () => void) => memory.subscribe(name, listener),
  snapshot: () => memory.text(name) ?? "",
  set: (who: string) => void memory.set(name, who.trim().slice(0, 80)),
};
