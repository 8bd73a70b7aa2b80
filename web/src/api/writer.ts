/** Who is writing on this device: their name stands beside everything they note. */
const shelf = "hevrin.writer";
const listeners = new Set<() => void>();

export const writer = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  snapshot: () => localStorage.getItem(shelf) ?? "",
  set: (name: string) => {
    localStorage.setItem(shelf, name.trim().slice(0, 80));
    listeners.forEach((l) => l());
  },
};
