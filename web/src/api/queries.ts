import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useSyncExternalStore } from "react";
import {
  getAudit,
  getBackups,
  getDevices,
  getPeople,
  getSetUp,
  getLabels,
  getLinks,
  getAccountNews,
  getOwnCalendar,
  getPushing,
  getLists,
  getHindsight,
  getMethods,
  getPractice,
  getPracticeBench,
  getPracticeHome,
  getPracticePeople,
  getPracticeReview,
  getCatalogue,
  getDrawings,
  getCraft,
  getDue,
  getDrafts,
  getEngine,
  getJob,
  getLive,
  getEngineState,
  getHealth,
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
  search,
  calculate,
  type Linked,
  type Schemas,
  type UnitSystem,
} from "./client";
import { useFallback } from "./changes";
import { keys } from "./keys";
import { session, type Right } from "./session";
import { outbox } from "./outbox";

/** How often something that moves by itself is asked for: a gateway, a recording that goes on. */
const movesEvery = 1500;

export const useCatalogue = () =>
  useQuery({ queryKey: keys.catalogue(), queryFn: getCatalogue, staleTime: Infinity, gcTime: Infinity });
/** Which drawing belongs to what; asked for where one is drawn. */
export const useDrawings = () =>
  useQuery({ queryKey: keys.drawings(), queryFn: getDrawings, staleTime: Infinity, gcTime: Infinity });
export const useYard = () => useQuery({ queryKey: keys.yard(), queryFn: getYard, refetchInterval: useFallback() });
/** How the place where the record lies stands: asked now and then, as it changes slowly. */
export const useRecordHealth = () =>
  useQuery({ queryKey: keys.health(), queryFn: getHealth, refetchInterval: 15 * 60_000, staleTime: 60_000 });
export const useBackups = () => useQuery({ queryKey: keys.backups(), queryFn: getBackups });
export const usePeople = () => useQuery({ queryKey: keys.people(), queryFn: getPeople });
export const useDevices = () =>
  useQuery({ queryKey: keys.devices(), queryFn: getDevices, refetchInterval: 30_000, staleTime: 0 });
export const useAudit = () => useQuery({ queryKey: keys.audit(), queryFn: getAudit, staleTime: 0 });
export const useSetUp = () => useQuery({ queryKey: keys.setUp(), queryFn: getSetUp });
export const usePushing = () => useQuery({ queryKey: keys.pushing(), queryFn: getPushing });
export const useAccountNews = () => useQuery({ queryKey: keys.accountNews(), queryFn: getAccountNews, staleTime: 0 });
export const useOwnCalendar = () => useQuery({ queryKey: keys.calendar(), queryFn: getOwnCalendar });
export const useLabels = () => useQuery({ queryKey: keys.labels(), queryFn: getLabels, staleTime: 0 });
export const useLinks = (of: Linked) =>
  useQuery({ queryKey: keys.links(linkedID(of)), queryFn: () => getLinks(of), staleTime: 0 });
export const linkedID = (of: Linked) => ("job" in of ? of.job : of.engine);
/** Whether who uses this device may do something; on a machine alone everybody may everything. */
export const useMay = (right: Right) => {
  const s = useSession();
  return s?.mode !== "yard" || s.rights.includes(right);
};
/** Who uses this device; undefined before the program was ever asked. */
export const useSession = () => useSyncExternalStore(session.subscribe, session.snapshot);
/** The lists that were brought in, and what one can hold. */
export const useLists = () => useQuery({ queryKey: keys.lists(), queryFn: getLists });
/** What is found by a word; the answer before stands while the next comes. No word, no question. */
export const useSearch = (words: string) =>
  useQuery({
    queryKey: keys.search(words),
    queryFn: () => search(words),
    enabled: words !== "",
    placeholderData: keepPreviousData,
  });
export const useCraft = (id: string) => useQuery({ queryKey: keys.craft(id), queryFn: () => getCraft(id) });
export const useEngine = (id: string) => useQuery({ queryKey: keys.engine(id), queryFn: () => getEngine(id) });
/** A job as it stands. No id, no question. */
export const useJob = (id: string) =>
  useQuery({ queryKey: keys.job(id), queryFn: () => getJob(id), refetchInterval: useFallback(), enabled: id !== "" });

/** What was typed in a job on any device and not saved: asked for when a form opens, and when one comes back to it. */
export const useDrafts = (id: string) =>
  useQuery({ queryKey: keys.drafts(id), queryFn: () => getDrafts(id), retry: false, refetchOnWindowFocus: "always" });

export const useCalculators = () =>
  useQuery({ queryKey: keys.calculators(), queryFn: getCalculators, staleTime: Infinity, gcTime: Infinity });
/** The answer to a sum as it is given now; while the next comes, the one before stands. */
export const useAnswer = (name: string, given: Record<string, unknown>, units: UnitSystem) =>
  useQuery({
    queryKey: keys.pure("answer", name, units, given),
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
    queryKey: keys.pure("should", engine, operation),
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
    queryKey: keys.pure("health", engine, round, units),
    queryFn: () => plantHealth({ engine, rounds: round ? [round] : [] }, units),
    enabled: round !== undefined && round.readings.length > 0,
    ...asked,
  });
/** What is left to an engine before its alarm. */
export const useLimits = (question: Schemas["PlantLimitsQuestion"]) =>
  useQuery({ queryKey: keys.pure("limits", question), queryFn: () => plantLimits(question), ...asked });
/** The figures that the model takes for an engine; nothing is asked before its power and speed are known. */
export const useFacts = (engine: Schemas["PlantEngine"] | undefined) =>
  useQuery({
    queryKey: keys.pure("facts", engine),
    queryFn: () => (engine ? plantFacts(engine) : Promise.reject(new Error("no engine"))),
    enabled: engine !== undefined,
    ...asked,
  });
export const usePracticeHome = () =>
  useQuery({ queryKey: keys.practiceHome(), queryFn: getPracticeHome, staleTime: 0 });
/** A practice as it stands. No id, no question. */
export const usePracticeAt = (id: string | undefined) =>
  useQuery({ queryKey: keys.practice(id ?? ""), queryFn: () => getPractice(id ?? ""), enabled: id !== undefined });
/** How the practice goes of those who let it be seen; asked only by who may see it. */
export const usePracticePeople = (enabled: boolean) =>
  useQuery({ queryKey: keys.practicePeople(), queryFn: getPracticePeople, staleTime: 0, enabled });
/** One's last bench of methods, asked again while it is played; an error where none was begun. */
export const usePracticeBench = () =>
  useQuery({
    queryKey: keys.practiceBench(),
    queryFn: getPracticeBench,
    retry: false,
    staleTime: 0,
    refetchInterval: (q) => (q.state.data && !q.state.data.over ? movesEvery : false),
  });
export const usePracticeReview = (id: string) =>
  useQuery({ queryKey: keys.practiceReview(id), queryFn: () => getPracticeReview(id), staleTime: 0 });
/** How good the advice was, asked again while there are jobs to be looked back on. */
export const useHindsight = () =>
  useQuery({
    queryKey: keys.hindsight(),
    queryFn: getHindsight,
    refetchInterval: (q) => (q.state.status === "success" && q.state.data && q.state.data.left > 0 ? 200 : false),
  });
export const useMethods = () => useQuery({ queryKey: keys.methods(), queryFn: getMethods });
export const useTypes = () =>
  useQuery({ queryKey: keys.types(), queryFn: getTypes, staleTime: Infinity, gcTime: Infinity });

/** What is heard of a gateway, asked again and again; no address: the engine's own. */
export const useLivePage = (engine: string, address: string) =>
  useQuery({
    queryKey: keys.live(engine, address),
    queryFn: () => getLive(engine, address),
    refetchInterval: movesEvery,
    retry: false,
    placeholderData: keepPreviousData,
  });
/** A recording with what it shows; one that goes on is asked again and again. No id, no question. */
export const useRecording = (job: string, id: string, open: boolean) =>
  useQuery({
    queryKey: keys.recording(job, id),
    queryFn: () => getRecording(job, id),
    refetchInterval: open ? movesEvery : false,
    enabled: id !== "",
  });

/** The state that an engine is in, over all its jobs. */
export const useEngineState = (engine: string) =>
  useQuery({ queryKey: keys.state(engine), queryFn: () => getEngineState(engine), refetchInterval: useFallback() });
/** An engine's record: its service history, trends, and what is due. */
export const useServiceRecord = (engine: string) =>
  useQuery({ queryKey: keys.record(engine), queryFn: () => getServiceRecord(engine), refetchInterval: useFallback() });
/** What is due in the whole yard. */
export const useDue = () => useQuery({ queryKey: keys.due(), queryFn: getDue, refetchInterval: useFallback() });

/** The yard's shelf; two people may be at it. */
export const useInventory = (enabled = true) =>
  useQuery({ queryKey: keys.inventory(), queryFn: () => getInventory(), refetchInterval: useFallback(), enabled });
/** What of the inventory fits an engine, by itself or by its pump; for a task each kit says what it lacks. */
export const useInventoryFor = (engine: string, task?: string) =>
  useQuery({
    queryKey: keys.inventory(engine, task),
    queryFn: () => getInventory(engine, task),
    refetchInterval: useFallback(),
  });
export const useSupplier = (find: string) =>
  useQuery({ queryKey: keys.supplier(find), queryFn: () => getSupplier(find), placeholderData: keepPreviousData });

/** The owner's report; another device's taps change it too. */
export const useReport = (job: string, units: UnitSystem) =>
  useQuery({ queryKey: keys.report(job, units), queryFn: () => getReport(job, units), refetchInterval: useFallback() });

/** Lets everything that is shown be asked for again. */
export function useFresh() {
  const cache = useQueryClient();
  return useCallback(() => void cache.invalidateQueries(), [cache]);
}

export const useOutbox = () => useSyncExternalStore(outbox.subscribe, outbox.snapshot);
