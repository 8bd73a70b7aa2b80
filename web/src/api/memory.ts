/**
 * What this device remembers between visits: small things under a name, guarded. A storage that is full, refused or
 * holds nonsense never breaks a page: then it is remembered as long as the page is open.
 */
type Listener = () => void;

const listeners = new Map<string, Set<Listener>>();
const inPage = new Map<string, string>();

function text(name: string): string | undefined {
  const here = inPage.get(name);
  if (here !== undefined) return here;
  try {
    return localStorage.getItem(name) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Remembers words; undefined forgets them. False where it lasts only as long as the page. */
function set(name: string, value: string | undefined): boolean {
  let lasts = true;
  inPage.delete(name);
  try {
    if (value === undefined) localStorage.removeItem(name);
    else localStorage.setItem(name, value);
  } catch {
    if (value !== undefined) inPage.set(name, value);
    lasts = false;
  }
  listeners.get(name)?.forEach((l) => l());
  return lasts;
}

/** Reads something that was remembered as JSON; what cannot be read, or does not fit, is as if it were not there. */
function read<T>(name: string, fits: (x: unknown) => x is T): T | undefined {
  try {
    const x: unknown = JSON.parse(text(name) ?? "null");
    return fits(x) ? x : undefined;
  } catch {
    return undefined;
  }
}

/** The names under which something is remembered that begin so, sorted. */
function names(beginning: string): string[] {
  const list = [...inPage.keys()];
  try {
    list.push(...Object.keys(localStorage));
  } catch {
    // refused: there is only what the page remembers
  }
  return [...new Set(list)].filter((n) => n.startsWith(beginning)).sort();
}

function subscribe(name: string, listener: Listener) {
  const those = listeners.get(name) ?? new Set();
  listeners.set(name, those.add(listener));
  return () => void those.delete(listener);
}

const write = (name: string, x: unknown) => set(name, JSON.stringify(x));

export const memory = { text, set, read, names, subscribe, write };

export const isRecord = (x: unknown): x is Record<string, unknown> =>
  typeof x === "object" && x !== null && !Array.isArray(x);
