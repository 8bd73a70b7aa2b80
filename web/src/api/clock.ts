/**
 * The yard's clock, as far as this device knows it: how far its own is off is measured at every answer, and what is
 * tapped is stamped by the yard's. The order of one device's taps is never changed by that.
 */
import { memory } from "./memory";

const offName = "hevrin.clock.off";
const lastName = "hevrin.clock.last";
/** A Date header tells whole seconds, and an answer takes its time: less than this is no difference, ms. */
const least = 2_000;

const off = () => Number(memory.text(offName) ?? 0) || 0;

/** Takes in by the program's clock, ms, when an answer to something asked at a moment of this device's came. */
function heard(theirs: number, asked: number, answered: number) {
  if (!Number.isFinite(theirs)) return;
  // a second is told by its beginning: half of it, and half of the way, is the best guess
  const is = theirs + 500 - (asked + answered) / 2;
  const next = Math.abs(is) < least ? 0 : Math.round(is);
  if (Math.abs(next - off()) >= least || (next === 0 && off() !== 0)) memory.set(offName, String(next));
}

/** Now, by the yard's clock, ms since 1970. */
const now = () => Date.now() + off();

/** The moment of a tap, as it is sent: never before that of the tap before it. */
function stamp(): string {
  const last = Number(memory.text(lastName) ?? 0);
  // a clock that was set back by more than a day tells nothing any more
  const at = last >= now() && last - now() < 86_400_000 ? last + 1 : now();
  memory.set(lastName, String(at));
  return new Date(at).toISOString();
}

export const clock = { off, heard, now, stamp };
