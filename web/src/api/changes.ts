import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import type { Schemas } from "./client";
import { keys, touchedBy } from "./keys";
import { whileLinked } from "./link";
import { practice } from "./practice";
import { session } from "./session";
import { listenTo, longestSilence } from "./stream";

/** Entries that this page sent: it has the answer already, and need not ask for its own pages again. */
const own = new Set<string>();

export function rememberOwn(entry: string) {
  own.add(entry);
  if (own.size > 500) own.delete(own.values().next().value ?? "");
}

/** Lets what an entry may have changed be asked for again, where it is shown. */
export function take(cache: QueryClient, change: Schemas["RecordChange"]) {
  const mine = own.has(change.entry_id) ? keys.job(change.subject_id).join() : "";
  for (const queryKey of touchedBy[change.subject_kind](change.subject_id)) {
    if (queryKey.join() !== mine) void cache.invalidateQueries({ queryKey });
  }
}

/** What does not hang on the record. */
export const fixed = new Set([
  "catalogue",
  "calculators",
  "types",
  "answer",
  "should",
  "health",
  "limits",
  "facts",
  "present",
]);
const everything = (cache: QueryClient) =>
  void cache.invalidateQueries({ predicate: (q) => !fixed.has(String(q.queryKey[0])) });

let connected = false;
const listeners = new Set<() => void>();
const say = (is: boolean) => {
  if (connected === is) return;
  connected = is;
  listeners.forEach((l) => l());
};

/** How often is asked while nothing can be pushed: an unchanged answer costs a few bytes. */
const slow = 15_000;
/** In practice only this page changes anything. */
const never = false;

/** Whether changes are pushed now; else how often to ask. */
export const useFallback = () =>
  useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => void listeners.delete(l);
    },
    () => (connected || practice ? never : slow),
  );

/**
 * Listens for what is added to the record, on any device. A browser opens few links to one program: of all its tabs one
 * listens, and tells the others.
 */
export function useChanges() {
  const cache = useQueryClient();
  useEffect(() => {
    if (practice || typeof EventSource === "undefined") return; // in practice nobody else changes anything
    const channel = typeof BroadcastChannel === "undefined" ? undefined : new BroadcastChannel("hevrin.changes");
    let last = Date.now(); // when anything was heard
    const hear = (text: string) => {
      last = Date.now();
      if (text === "here" || text === "gone") return say(text === "here");
      if (text === "all") return everything(cache);
      const change = JSON.parse(text) as Schemas["RecordChange"] | Schemas["PresenceChange"];
      if ("entry_id" in change) take(cache, change);
      else void cache.invalidateQueries({ queryKey: keys.present(change.job_id) });
    };
    const pass = (text: string) => {
      channel?.postMessage(text);
      hear(text);
    };
    let leads = false; // this tab listens for all
    if (channel)
      channel.onmessage = (e: MessageEvent<string>) => {
        if (e.data !== "anyone?") hear(e.data);
        else if (leads) channel.postMessage(connected ? "here" : "gone");
      };
    channel?.postMessage("anyone?");
    const ended = new AbortController();
    let broke = false;
    const listen = () => {
      leads = true;
      const on = {
        opened: () => {
          pass("here");
          if (broke) pass("all"); // what came meanwhile is told too, but not what another program's run had
          broke = false;
        },
        broke: () => {
          gone();
          session.lost(); // the link, or the sign-in
        },
        heard: (kind: string, data: string) => pass(kind === "beat" ? "here" : kind === "all" ? kind : data),
      };
      const gone = () => {
        broke = true;
        pass("gone");
      };
      // without a link it is not opened again and again: whether there is one is asked for anyway
      return whileLinked((until) => listenTo("/api/v1/changes", on, until).then(gone), ended.signal);
    };
    // the tab that listens may be put to sleep: then each asks by itself
    const looking = setInterval(() => !leads && Date.now() - last > longestSilence && say(false), longestSilence / 4);
    if (navigator.locks)
      navigator.locks.request("hevrin.changes", { signal: ended.signal }, listen).catch(() => undefined);
    else void listen();
    return () => {
      ended.abort();
      clearInterval(looking);
      channel?.close();
    };
  }, [cache]);
}
