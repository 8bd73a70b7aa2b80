import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { answered } from "../api/answered";
import { putDraft, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { isRecord, memory } from "../api/memory";
import { useDrafts } from "../api/queries";
import { writer } from "../api/writer";

/** The beginning of the names under which a job's unkept answers are remembered; what they are in words follows. */
const beginning = (job: string) => `hevrin.unkept.${job}.`;
/** Under which a device remembers what it took over from another one, as it took it. */
const takenName = (job: string, what: string) => `hevrin.taken.${job}.${what}`;

/** What another device still offers though it was saved or dropped here while there was no link. */
const goneName = (job: string, what: string) => `hevrin.gone.${job}.${what}`;

/** Typing goes on for a moment before the program is told, in ms. */
const moment = 1000;

/**
 * What is typed or tapped and not yet saved: it survives a change of pane, a reload, a dead battery, and a change to
 * another device, until it is saved or dropped. What is as it was saved is nothing unkept.
 */
export function useUnkept<T extends object>(job: string, what: string, saved: T, fits = isRecord) {
  const name = beginning(job) + what;
  const [draft, setDraft] = useState<T>(() => {
    const kept = memory.read(name, (x): x is T & Record<string, unknown> => fits(x));
    return kept === undefined ? saved : { ...saved, ...kept };
  });
  const asSaved = JSON.stringify(saved);
  useEffect(() => {
    if (JSON.stringify(draft) === asSaved) memory.set(name, undefined);
    else memory.write(name, draft);
  }, [name, draft, asSaved]);
  const letGo = useShared(job, what, draft, saved, setDraft);
  const forget = useCallback(() => {
    memory.set(name, undefined);
    letGo();
  }, [name, letGo]);
  return [draft, setDraft, forget] as const;
}

/** Lets the program know of a draft; without a link the device's own memory has to do. */
function tell(cache: QueryClient, job: string, what: string, value?: string) {
  void cache.cancelQueries({ queryKey: keys.drafts(job) });
  cache.setQueryData(keys.drafts(job), (was?: Schemas["Drafts"]) => {
    const others = was?.drafts.filter((d) => d.what !== what) ?? [];
    const own = { what, value: value ?? "", by: writer.snapshot(), at: new Date().toISOString() };
    return { drafts: value === undefined ? others : [...others, own] };
  });
  return putDraft(job, { what, by: writer.snapshot(), ...(value && { value }) }).then(
    (drafts) => answered(cache, keys.drafts(job), drafts),
    () => undefined,
  );
}

/** Goes on with what was typed on another device, unless something was typed here; and tells what is typed here. */
function useShared<T extends object>(job: string, what: string, draft: T, saved: T, onTake: (draft: T) => void) {
  const cache = useQueryClient();
  const drafts = useDrafts(job);
  const there = drafts.data?.drafts.find((d) => d.what === what)?.value;
  const asked = drafts.isSuccess;
  const [is, asSaved] = [JSON.stringify(draft), JSON.stringify(saved)];
  const taken = takenName(job, what);
  const gone = goneName(job, what);
  const now = useRef({ is, asSaved, there, saved });
  useEffect(() => {
    now.current = { is, asSaved, there, saved };
  });
  useEffect(() => {
    const here = now.current;
    const untouched = here.is === here.asSaved || memory.text(taken) === here.is;
    if (!asked || !untouched) return;
    // saved or dropped here already, without a link
    if (there !== undefined && memory.text(gone) === there) return void tell(cache, job, what);
    const next = there === undefined ? here.saved : { ...here.saved, ...parsed<T>(there) };
    memory.set(taken, there === undefined ? undefined : JSON.stringify(next));
    if (JSON.stringify(next) !== here.is) onTake(next);
  }, [asked, there, taken, gone, cache, job, what, onTake]);
  useEffect(() => {
    if (!asked) return;
    const timer = setTimeout(() => {
      const value = is === asSaved ? undefined : is;
      if (memory.text(taken) !== is && value !== now.current.there) void tell(cache, job, what, value);
    }, moment);
    return () => clearTimeout(timer);
  }, [asked, is, asSaved, taken, cache, job, what]);
  return useCallback(() => {
    memory.set(taken, undefined);
    memory.set(gone, now.current.there);
    if (now.current.there !== undefined) void tell(cache, job, what);
  }, [cache, job, what, taken, gone]);
}

function parsed<T>(text: string): Partial<T> {
  try {
    const x: unknown = JSON.parse(text);
    return isRecord(x) ? (x as Partial<T>) : {};
  } catch {
    return {};
  }
}

/** What of a job was typed or tapped and not saved, in words: here, or on another device and by whom. */
export function useUnkeptOf(job: string) {
  const cache = useQueryClient();
  const there = useDrafts(job).data?.drafts ?? [];
  const [here, setHere] = useState(() => unkeptOf(job));
  const drop = (what: string) => {
    memory.set(beginning(job) + what, undefined);
    memory.set(takenName(job, what), undefined);
    setHere(unkeptOf(job));
    void tell(cache, job, what);
  };
  const elsewhere = there.filter((d) => !here.includes(d.what)).map((d) => ({ what: d.what, by: d.by }));
  return { list: [...here.map((what) => ({ what, by: "" })), ...elsewhere], drop };
}

/** What of a job was typed or tapped on this device and not saved, in words. */
export const unkeptOf = (job: string) => memory.names(beginning(job)).map((n) => n.slice(beginning(job).length));
