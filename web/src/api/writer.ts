import { memory } from "./memory";

/** Who is writing on this device: their name stands beside everything they note. */
const name = "hevrin.writer";

/** What stands in a name's place while nobody gave one. */
const nobody = "Name not given";

let asked = false;

export const writer = {
  subscribe: (listener: () => void) => memory.subscribe(name, listener),
  snapshot: () => memory.text(name) ?? "",
  /** Who an entry is by. */
  by: () => memory.text(name) || nobody,
  set: (who: string) => void memory.set(name, who.trim().slice(0, 80)),
  /** Whether the name is still to be asked for: once while the program is open. */
  toAsk: () => !asked,
  asked: () => {
    asked = true;
  },
};
