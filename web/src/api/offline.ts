/** Goes on without a link: what is opened is taken along, and the phone's own program is there when it is needed. */
import type { Query, QueryClient } from "@tanstack/react-query";
import { along } from "./along";
import { fixed } from "./changes";
import type { Catalogue } from "./client";
import { link } from "./link";
import { isRecord } from "./memory";
import { outbox } from "./outbox";
import { onThisDevice } from "./practice";
import { session } from "./session";

/** How long after the first screen the phone's own program is fetched, ms. */
const fetchAfter = 4_000;
/** How soon after a page was read its craft is taken along, and how often at most, ms. */
const soon = 1_500;
const atMost = 15_000;

/** The craft that a page is of; undefined for other pages. */
function craftOf(q: Query): string | undefined {
  if (!["job", "engine", "craft"].includes(String(q.queryKey[0]))) return undefined;
  const page: unknown = q.state.data;
  const craft = isRecord(page) && isRecord(page.craft) ? page.craft.id : undefined;
  return typeof craft === "string" ? craft : undefined;
}

/** Takes along what is opened, each craft at most so often, and once more where something came meanwhile. */
function takesAlong() {
  const due = new Map<string, ReturnType<typeof setTimeout>>();
  const last = new Map<string, number>();
  return (id: string) => {
    if (due.has(id) || link.down()) return;
    const wait = Math.max(soon, atMost - (performance.now() - (last.get(id) ?? -atMost)));
    due.set(
      id,
      setTimeout(() => {
        due.delete(id);
        last.set(id, performance.now());
        if (!link.down()) along.take(id).catch(() => undefined); // told where it is asked for
      }, wait),
    );
  };
}

/** From now on; the return ends it. */
export function goOnAlone(cache: QueryClient): () => void {
  /** Asks for what is shown again; where all was sent as well, phone and yard are together. */
  const anew = () =>
    void cache
      .invalidateQueries({ predicate: (q) => q.state.status === "error" || !fixed.has(String(q.queryKey[0])) })
      .then(() => outbox.snapshot().waiting.length === 0 && link.together());
  const take = takesAlong();
  /** The link came or went, or the phone's own program runs now: what is shown may stand otherwise. */
  const turned = () => {
    if (!link.down() || link.alone()) anew();
    else void import("./phone").then(({ phone }) => phone.start()).catch(() => undefined);
  };
  let person = session.snapshot()?.person?.id;
  const ends = [
    cache.getQueryCache().subscribe((e) => {
      if (e.type !== "updated" || e.action.type !== "success" || link.down()) return;
      const craft = craftOf(e.query);
      if (craft) take(craft);
      if (e.query.queryKey[0] === "catalogue") void along.renew((e.query.state.data as Catalogue).version);
    }),
    link.subscribe(turned),
    session.subscribe(() => {
      const is = session.snapshot();
      if (is?.mode === "yard" && (!is.signed_in || is.person?.id !== person)) {
        void along.clear();
        onThisDevice.clear();
      }
      person = is?.person?.id;
    }),
  ];
  for (const q of cache.getQueryCache().getAll()) {
    const craft = craftOf(q); // it was read before this began
    if (craft) take(craft);
  }
  if (link.behind()) turned();
  outbox.onLate = anew;
  outbox.onSent = (letter) => void along.remember(letter).catch(() => undefined); // full: the next taking along has it
  const fetching = setTimeout(() => {
    void import("./phone").catch(() => undefined); // it cannot be fetched once the link is gone
    // where the shell is kept, the program is kept beside it
    if (!navigator.serviceWorker?.controller) return;
    void import("./phoneProgram").then((m) => m.phoneProgram()).catch(() => undefined);
  }, fetchAfter);
  return () => {
    clearTimeout(fetching);
    ends.forEach((end) => end());
  };
}
