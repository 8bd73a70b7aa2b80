import { memory } from "./memory";
import { practice } from "./practice";
import { session } from "./session";

/** Who is writing on this device: their name stands beside everything they note. */
const name = "hevrin.writer";

/** What stands in a name's place while nobody gave one. */
const nobody = "Name not given";

/** Who practises without a name: nothing of it goes on record, so nobody is asked. */
const learner = "A learner";

let asked = false;

/** Who is signed in, where people sign in: the program says so too, whatever is sent. */
const signedIn = () => session.snapshot()?.person?.name;

export const writer = {
  subscribe: (listener: () => void) => {
    const stops = [memory.subscribe(name, listener), session.subscribe(listener)];
    return () => stops.forEach((stop) => stop());
  },
  snapshot: () => signedIn() ?? memory.text(name) ?? (practice ? learner : ""),
  /** Who an entry is by. */
  by: () => writer.snapshot() || nobody,
  set: (who: string) => void memory.set(name, who.trim().slice(0, 80)),
  /** Whether the name is still to be asked for: once while the program is open. */
  toAsk: () => !asked,
  asked: () => {
    asked = true;
  },
};
