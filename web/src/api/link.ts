/** Whether the program is reached from this device, and when it was last. */
import { memory } from "./memory";

const name = "hevrin.reached";
/** How finely the time is remembered, ms. */
const step = 10_000;

let down = false;
const listeners = new Set<() => void>();

function told(isDown: boolean) {
  if (!isDown && Date.now() - reached() > step) memory.set(name, String(Date.now()));
  if (isDown === down) return;
  down = isDown;
  listeners.forEach((l) => l());
}

/** When the program was last reached, ms since 1970; 0: never. */
const reached = () => Number(memory.text(name) ?? 0);

export const link = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  down: () => down,
  reached,
};

/** How long an answer to a question is waited for, ms: a link that is dead but not cut says nothing for minutes. */
const patience = 8_000;

/** Asks the program, and notes whether it answers. A question that is not answered in a while has no link. */
export async function asked(request: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  try {
    const bounded = request instanceof Request && request.method === "GET";
    const signal = bounded ? AbortSignal.any([request.signal, AbortSignal.timeout(patience)]) : undefined;
    const answer = await fetch(request, bounded ? { ...init, signal } : init);
    told(false);
    return answer;
  } catch (e) {
    // what the page itself gave up says nothing of the link
    if (!(e instanceof DOMException && e.name === "AbortError")) told(true);
    throw e;
  }
}
