import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useSyncExternalStore } from "react";
import {
  getMethods,
  getCatalogue,
  getCraft,
  getDue,
  getEngine,
  getJob,
  getLive,
  getServiceRecord,
  getRecording,
  getReport,
  getInventory,
  getCalculators,
  getSupplier,
  getTypes,
  getYard,
  plantFacts,
  plantHealth,
  plantLimits,
  plantSteady,
  Refused,
  importDatalog,
  calculate,
  type JobPage,
  type Schemas,
  type UnitSystem,
} from "./client";
import { outbox } from "./outbox";
import { writer } from "./writer";

/** How often another device's taps are asked for: so that they show within two seconds. */
const freshEvery = 1500;

export const useCatalogue = () =>
  useQuery({ queryKey: ["catalogue"], queryFn: getCatalogue, staleTime: Infinity, gcTime: Infinity });
export const useYard = () => useQuery({ queryKey: ["yard"], queryFn: getYard, refetchInterval: 5000 });
export const useCraft = (id: string) => useQuery({ queryKey: ["craft", id], queryFn: () => getCraft(id) });
export const useEngine = (id: string) => useQuery({ queryKey: ["engine", id], queryFn: () => getEngine(id) });
/** A job as it stands; once: without asking again for other devices' taps. No id, no question. */
export const useJob = (id: string, { once = false } = {}) =>
  useQuery({
    queryKey: ["job", id],
    queryFn: () => getJob(id),
    refetchInterval: once ? false : freshEvery,
    enabled: id !== "",
  });

export const useCalculators = () =>
  useQuery({ queryKey: ["sums"], queryFn: getCalculators, staleTime: Infinity, gcTime: Infinity });
/** The answer to a sum as it is given now; while the next comes, the one before stands. */
export const useAnswer = (name: string, given: Record<string, unknown>, units: UnitSystem) =>
  useQuery({
    queryKey: ["answer", name, units, given],
    queryFn: () => calculate(name, given, units),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: (times, e) => !(e instanceof Refused) && times < 1,
  });

/** Questions to the model: the answer before stands while the next comes; a refusal is not asked again. */
const asked = { placeholderData: keepPreviousData, staleTime: Infinity, retry: false } as const;

/** What a healthy engine reads at an operation; nothing is asked without one. */
export const useShould = (engine: Schemas["PlantEngine"], operation: Schemas["Operation"] | undefined) =>
  useQuery({
    queryKey: ["should", engine, operation],
    queryFn: () => plantSteady({ engine, operation: operation ?? { rpm: 0, sea_c: 0 } }),
    enabled: operation !== undefined,
    ...asked,
  });
/** What a round says of an engine's health; nothing is asked before something was read. */
export const useHealth = (
  engine: Schemas["PlantEngine"],
  round: Schemas["PlantRound"] | undefined,
  units: UnitSystem,
) =>
  useQuery({
    queryKey: ["health", engine, round, units],
    queryFn: () => plantHealth({ engine, rounds: round ? [round] : [] }, units),
    enabled: round !== undefined && round.readings.length > 0,
    ...asked,
  });
/** What is left to an engine before its alarm. */
export const useLimits = (question: Schemas["PlantLimitsQuestion"]) =>
  useQuery({ queryKey: ["limits", question], queryFn: () => plantLimits(question), ...asked });
/** The figures that the model takes for an engine; nothing is asked before its power and speed are known. */
export const useFacts = (engine: Schemas["PlantEngine"] | undefined) =>
  useQuery({
    queryKey: ["facts", engine],
    queryFn: () => (engine ? plantFacts(engine) : Promise.reject(new Error("no engine"))),
    enabled: engine !== undefined,
    ...asked,
  });
export const useMethods = () => useQuery({ queryKey: ["book"], queryFn: getMethods });
export const useTypes = () =>
  useQuery({ queryKey: ["types"], queryFn: getTypes, staleTime: Infinity, gcTime: Infinity });

/** What is heard of a gateway, asked again and again; no address: the engine's own. */
export const useLivePage = (engine: string, address: string) =>
  useQuery({
    queryKey: ["live", engine, address],
    queryFn: () => getLive(engine, address),
    refetchInterval: freshEvery,
    retry: false,
    placeholderData: keepPreviousData,
  });
/** A recording with what it shows; one that goes on is asked again and again. No id, no question. */
export const useRecording = (job: string, id: string, open: boolean) =>
  useQuery({
    queryKey: ["recording", job, id],
    queryFn: () => getRecording(job, id),
    refetchInterval: open ? freshEvery : false,
    enabled: id !== "",
  });

/** An engine's record: its service history, trends, and what is due. */
export const useServiceRecord = (engine: string) =>
  useQuery({ queryKey: ["record", engine], queryFn: () => getServiceRecord(engine), refetchInterval: 15000 });
/** What is due in the whole yard. */
export const useDue = () => useQuery({ queryKey: ["due"], queryFn: getDue, refetchInterval: 15000 });

/** The yard's shelf; two people may be at it. */
export const useInventory = (enabled = true) =>
  useQuery({ queryKey: ["shelf"], queryFn: () => getInventory(), refetchInterval: 5000, enabled });
/** What of the inventory fits an engine, by itself or by its pump. */
export const useInventoryFor = (engine: string) =>
  useQuery({ queryKey: ["shelf", engine], queryFn: () => getInventory(engine), refetchInterval: 5000 });
export const useSupplier = (find: string) =>
  useQuery({ queryKey: ["supplier", find], queryFn: () => getSupplier(find), placeholderData: keepPreviousData });

/** The owner's report; another device's taps change it too. */
export const useReport = (job: string, units: UnitSystem) =>
  useQuery({ queryKey: ["report", job, units], queryFn: () => getReport(job, units), refetchInterval: 5000 });

/** Lets everything that is shown be asked for again. */
export function useFresh() {
  const cache = useQueryClient();
  return useCallback(() => void cache.invalidateQueries(), [cache]);
}

export const useOutbox = () => useSyncExternalStore(outbox.subscribe, outbox.snapshot);

export type JobEntry = Omit<Schemas["JobEntry"], "by" | "tapped_at">;

const stamp = () => ({ by: writer.snapshot(), tapped_at: new Date().toISOString() });

/** Everything that can be kept. Each settles when the server has it; what waits for a link is shown meanwhile. */
export function useSave() {
  const cache = useQueryClient();
  const jobChanged = useCallback(
    (page: unknown) => cache.setQueryData(["job", (page as JobPage).card.id], page),
    [cache],
  );
  const noteInJob = useCallback(
    async (job: string, entry: JobEntry, label: string) => {
      const id = crypto.randomUUID();
      jobChanged(await outbox.post({ id, path: `/jobs/${job}/entries/${id}`, body: { ...entry, ...stamp() }, label }));
      return id;
    },
    [jobChanged],
  );
  const startJob = async (engine: string, words: string) => {
    const id = crypto.randomUUID();
    const body = { entry_id: crypto.randomUUID(), engine_id: engine, words, ...stamp() };
    jobChanged(await outbox.post({ id, path: `/jobs/${id}`, body, label: "A job started" }));
    return id;
  };
  const undo = useCallback(
    async (entry: string) => {
      const id = crypto.randomUUID();
      await outbox.post({
        id,
        path: `/undo/${id}`,
        body: { undoes: entry, ...stamp() },
        label: "Something taken back",
      });
      await cache.invalidateQueries({
        predicate: (q) =>
          !["catalogue", "sums", "types", "answer", "should", "health", "limits", "facts"].includes(
            String(q.queryKey[0]),
          ),
      });
    },
    [cache],
  );
  const keepCraft = async (id: string, facts: object) => {
    const body = { entry_id: crypto.randomUUID(), ...facts, ...stamp() };
    await outbox.post({ id: body.entry_id, path: `/craft/${id}`, body, label: "A craft saved" });
    await cache.invalidateQueries({ queryKey: ["yard"] });
  };
  const keepEngine = async (id: string, facts: object) => {
    const body = { entry_id: crypto.randomUUID(), ...facts, ...stamp() };
    await outbox.post({ id: body.entry_id, path: `/engines/${id}`, body, label: "An engine saved" });
    await cache.invalidateQueries({ predicate: (q) => q.queryKey[0] === "yard" || q.queryKey[0] === "engine" });
  };
  const keepBaseline = async (engine: string, job: string, rounds: string[], words: string) => {
    const body = { entry_id: crypto.randomUUID(), job_id: job, rounds, ...(words && { words }), ...stamp() };
    const page = await outbox.post({
      id: body.entry_id,
      path: `/engines/${engine}/baseline`,
      body,
      label: "A standard saved",
    });
    cache.setQueryData(["engine", engine], page);
    await cache.invalidateQueries({ predicate: (q) => q.queryKey[0] === "job" || q.queryKey[0] === "yard" });
    return body.entry_id;
  };
  const noteInBook = async (entry: Omit<Schemas["MethodEntry"], "by">, label: string) => {
    const id = crypto.randomUUID();
    cache.setQueryData(
      ["book"],
      await outbox.post({ id, path: `/methods/entries/${id}`, body: { ...entry, ...stamp() }, label }),
    );
    return id;
  };
  const keepFeed = async (engine: string, feed: Schemas["Feed"]) => {
    const body = { entry_id: crypto.randomUUID(), feed, ...stamp() };
    const page = await outbox.post({ id: body.entry_id, path: `/engines/${engine}/feed`, body, label: "A feed saved" });
    cache.setQueryData(["engine", engine], page);
    await cache.invalidateQueries({ predicate: (q) => q.queryKey[0] === "job" || q.queryKey[0] === "live" });
    return body.entry_id;
  };
  const keepLogger = async (job: string, file: Omit<Schemas["DatalogImported"], "entry_id" | "by">) => {
    const entry = crypto.randomUUID();
    jobChanged(await importDatalog(job, crypto.randomUUID(), { entry_id: entry, ...file, ...stamp() }));
    return entry;
  };
  return {
    keepFeed,
    keepLogger,
    noteInBook,
    noteInJob,
    startJob,
    undo,
    keepCraft,
    keepEngine,
    keepBaseline,
  };
}

/** What is kept beside the jobs: an engine's maintenance, and the yard's inventory. */
export function useKeepUp() {
  const cache = useQueryClient();
  const noteUpkeep = async (
    engine: string,
    entry: { meter?: Schemas["Meter"]; upkeep?: Schemas["MaintenanceAct"] },
    label: string,
  ) => {
    const id = crypto.randomUUID();
    const body = { ...entry, ...stamp() };
    cache.setQueryData(
      ["record", engine],
      await outbox.post({ id, path: `/engines/${engine}/entries/${id}`, body, label }),
    );
    await cache.invalidateQueries({ queryKey: ["due"] });
    return id;
  };
  const noteOnShelf = async (act: Omit<Schemas["InventoryEntry"], "by" | "tapped_at">, label: string) => {
    const id = crypto.randomUUID();
    cache.setQueryData(
      ["shelf"],
      await outbox.post({ id, path: `/inventory/entries/${id}`, body: { ...act, ...stamp() }, label }),
    );
    return id;
  };
  return { noteUpkeep, noteOnShelf };
}
