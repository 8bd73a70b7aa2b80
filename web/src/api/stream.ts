/** How long a stream is silent at most while its link stands, ms: the program says something every 15 s. */
export const longestSilence = 40_000;
/** How often is looked whether it still speaks, ms. */
const lookEvery = 5_000;

/** The events of a stream that is listened to; those of no name are called message. */
const kinds = ["message", "all", "present", "beat"] as const;

/** Who listens to a stream. */
export interface Listener {
  opened: () => void;
  /** The link broke; the stream is opened anew by itself. */
  broke: () => void;
  heard: (kind: (typeof kinds)[number], data: string) => void;
}

/**
 * Listens to a stream until told to stop. A link that is dead but not cut, as after a phone slept or went out of reach,
 * says nothing, and no browser notices: a stream that is silent for too long is opened anew.
 */
export function listenTo(at: string, to: Listener, ended: AbortSignal): Promise<void> {
  let source: EventSource;
  let last = 0;
  const begin = () => {
    last = Date.now();
    source = new EventSource(at);
    source.onopen = () => {
      last = Date.now();
      to.opened();
    };
    source.onerror = () => to.broke();
    for (const kind of kinds)
      source.addEventListener(kind, (e: MessageEvent<string>) => {
        last = Date.now();
        to.heard(kind, e.data);
      });
  };
  const look = () => {
    if (Date.now() - last < longestSilence) return;
    source.close();
    to.broke();
    begin();
  };
  begin();
  const looking = setInterval(look, lookEvery);
  document.addEventListener("visibilitychange", look); // at once where the device slept
  return new Promise((done) =>
    ended.addEventListener("abort", () => {
      clearInterval(looking);
      document.removeEventListener("visibilitychange", look);
      source.close();
      done();
    }),
  );
}
