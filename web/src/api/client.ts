import createClient from "openapi-fetch";
import { asked } from "./link";
import { memory } from "./memory";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type Catalogue = Schemas["Catalogue"];
export type JobPage = Schemas["JobPage"];
export type Answer = Schemas["Answer"];
export type Statement = Schemas["Statement"];
export type LogLine = Schemas["LogLine"];
export type NextCheck = Schemas["NextCheck"];
export type Stated = Schemas["Stated"];
export type Calculator = Schemas["Calculator"];
export type CalculatorField = Schemas["CalculatorField"];
export type CalculatorResult = Schemas["CalculatorResult"];
export type CalculatorAnswer = Schemas["CalculatorAnswer"];
export type Picture = Schemas["Picture"];
export type Unit = Schemas["Unit"];
export type UnitSystem = Schemas["UnitSystem"];
export type Figure = Schemas["Figure"];
export type PlantRound = Schemas["PlantRound"];
export type PlantReading = Schemas["PlantReading"];
export type PlantEngine = Schemas["PlantEngine"];
export type PlantHealth = Schemas["PlantHealth"];
export type ProvingRun = Schemas["ProvingRun"];
export type RunStage = Schemas["RunStage"];
export type ProvingAct = Schemas["ProvingAct"];
export type LiveEvent = Schemas["LiveEvent"];
export type Track = Schemas["Track"];
export type Place = Schemas["Place"];
export type AlarmLine = Schemas["AlarmLine"];
export type FieldError = Schemas["FieldError"];

export const client = createClient<paths>({ baseUrl: "/api/v1", fetch: (request) => asked(request) });

/** Is told when the program answers that nobody is signed in on this device. */
export const signedOut: { heard: () => void } = { heard: () => undefined };

/** Where a device remembers the units that its person likes. */
export const unitsName = "hevrin.units";

/** Every request says in whose units the sentences of its answer are to speak. */
export const unitsHeader = () => ({ "Hevrin-Units": memory.text(unitsName) ?? "metric" });

client.use({
  onRequest({ request }) {
    for (const [name, system] of Object.entries(unitsHeader())) request.headers.set(name, system);
  },
  onResponse({ response }) {
    if (response.status === 401) signedOut.heard();
  },
});

/** What the server said was wrong, in a form that can be shown as it is. */
export class Refused extends Error {
  constructor(readonly problem: Schemas["Problem"]) {
    super(problem.detail);
  }
}

async function read<T>(answer: Promise<{ data?: T; error?: Schemas["Problem"] }>): Promise<T> {
  const { data, error } = await answer;
  if (error || data === undefined) throw new Refused(error ?? { title: "No answer", status: 0, detail: "No answer." });
  return data;
}

export const getCatalogue = () => read(client.GET("/catalogue"));
export const getDrawings = () => read(client.GET("/catalogue/drawings"));
export const search = (words: string) => read(client.GET("/search", { params: { query: { for: words } } }));
export const getHealth = () => read(client.GET("/health"));
export const checkRecord = () => read(client.POST("/record/check"));
export const makeBackup = () => read(client.POST("/record/backups"));
export const getBackups = () => read(client.GET("/record/backups"));
export const checkBackup = (name: string) =>
  read(client.POST("/record/backups/{name}/check", { params: { path: { name } } }));
/** Which backup is to stand in the place of the record at the next start; none: it stays. */
export const restoreAtStart = (name?: string) => read(client.PUT("/record/restore", { body: name ? { name } : {} }));
export const getYard = () => read(client.GET("/yard"));
export const getEngine = (engine_id: string) =>
  read(client.GET("/engines/{engine_id}", { params: { path: { engine_id } } }));
export const getJob = (job_id: string) => read(client.GET("/jobs/{job_id}", { params: { path: { job_id } } }));
export const getCraft = (craft_id: string) => read(client.GET("/craft/{craft_id}", { params: { path: { craft_id } } }));

export const getCalculators = () => read(client.GET("/calc"));
export const calculate = (name: string, given: Record<string, unknown>, units: UnitSystem) =>
  read(client.POST("/calc/{name}", { params: { path: { name }, query: { units } }, body: given }));
export const plantSteady = (body: Schemas["PlantQuestion"]) => read(client.POST("/plant/steady", { body }));
export const plantHealth = (body: Schemas["PlantRounds"], units: UnitSystem) =>
  read(client.POST("/plant/health", { params: { query: { units } }, body }));
export const plantLimits = (body: Schemas["PlantLimitsQuestion"]) => read(client.POST("/plant/limits", { body }));
export const plantFacts = (engine: PlantEngine) => read(client.POST("/plant/facts", { body: { engine } }));
export const getLive = (engine_id: string, address: string) =>
  read(
    client.GET("/engines/{engine_id}/live", {
      params: { path: { engine_id }, query: address ? { address } : {} },
    }),
  );
export const liveStreamAt = (engine: string) => `/api/v1/engines/${engine}/live/stream`;
export const getLiveRound = (engine_id: string) =>
  read(client.GET("/engines/{engine_id}/live/round", { params: { path: { engine_id } } }));
export const previewDatalog = (engine_id: string, data: string) =>
  read(client.POST("/engines/{engine_id}/logger", { params: { path: { engine_id } }, body: { data } }));
/** Straight to the program, past the outbox: a file is too large to wait on the device. */
export const importDatalog = (job_id: string, recording_id: string, body: Schemas["DatalogImported"]) =>
  read(client.PUT("/jobs/{job_id}/recordings/{recording_id}", { params: { path: { job_id, recording_id } }, body }));
export const getRecording = (job_id: string, recording_id: string) =>
  read(client.GET("/jobs/{job_id}/recordings/{recording_id}", { params: { path: { job_id, recording_id } } }));
export const getDrafts = (job_id: string) =>
  read(client.GET("/jobs/{job_id}/drafts", { params: { path: { job_id } } }));
/** Past the outbox: a draft is no part of the record, and what is newer follows anyhow. */
export const putDraft = (job_id: string, body: Schemas["DraftSaved"]) =>
  read(client.PUT("/jobs/{job_id}/drafts", { params: { path: { job_id } }, body }));
export const getReport = (job_id: string, units: UnitSystem) =>
  read(client.GET("/jobs/{job_id}/report", { params: { path: { job_id }, query: { units } } }));
/** A job's file, base64; tried, it only says what would be taken. */
export const importBundle = (data: string, tried: boolean) =>
  read(client.POST("/bundles", { body: { data, try: tried } }));
export const getPeople = () => read(client.GET("/people"));
export const invitePerson = (body: Schemas["PersonInvited"]) => read(client.POST("/people", { body }));
export const inviteAgain = (person_id: string) =>
  read(client.POST("/people/{person_id}/invitation", { params: { path: { person_id } } }));
export const changePerson = (person_id: string, body: Schemas["PersonChange"]) =>
  read(client.PUT("/people/{person_id}", { params: { path: { person_id } }, body }));
export const getDevices = () => read(client.GET("/devices"));
export const endDevice = (device_id: string) =>
  read(client.DELETE("/devices/{device_id}", { params: { path: { device_id } } }));
export const endDevices = (person_id: string) =>
  read(client.DELETE("/people/{person_id}/devices", { params: { path: { person_id } } }));
export const getAudit = () => read(client.GET("/audit"));
export const getInvitation = (token: string) =>
  read(client.GET("/invitations/{token}", { params: { path: { token } } }));
export const getLabels = () => read(client.GET("/labels"));
export const getOwnCalendar = () => read(client.GET("/session/calendar"));
export const makeCalendar = () => read(client.POST("/session/calendar"));
export const getPushing = () => read(client.GET("/session/push"));
export const subscribe = (body: Schemas["PushSubscription"]) => read(client.PUT("/session/push", { body }));
export const unsubscribe = () => read(client.DELETE("/session/push"));
export const getAccountNews = () => read(client.GET("/session/news"));
export const endCalendar = () => read(client.DELETE("/session/calendar"));
export const putPresent = (job_id: string, body: Schemas["Present"]) =>
  read(client.PUT("/jobs/{job_id}/present", { params: { path: { job_id } }, body }));
/** What an owner's link opens: the report of a job, or the page of an engine. */
export type Linked = { job: string } | { engine: string };
export const getLinks = (of: Linked) =>
  read(
    "job" in of
      ? client.GET("/jobs/{job_id}/links", { params: { path: { job_id: of.job } } })
      : client.GET("/engines/{engine_id}/links", { params: { path: { engine_id: of.engine } } }),
  );
/** Every link that opens something, of all jobs and engines. */
export const getStandingLinks = () => read(client.GET("/links"));
export const makeLink = (of: Linked, days: number) =>
  read(
    "job" in of
      ? client.POST("/jobs/{job_id}/links", { params: { path: { job_id: of.job } }, body: { days } })
      : client.POST("/engines/{engine_id}/links", { params: { path: { engine_id: of.engine } }, body: { days } }),
  );
export const endLink = (link_id: string) => read(client.DELETE("/links/{link_id}", { params: { path: { link_id } } }));
export const getShared = (token: string) => read(client.GET("/shared/{token}", { params: { path: { token } } }));
export const answerShared = (token: string, body: Schemas["SharedAnswer"]) =>
  read(client.POST("/shared/{token}", { params: { path: { token } }, body }));
export const getSetUp = () => read(client.GET("/setup"));
export const setUp = (body: Schemas["SetUp"]) => read(client.POST("/setup", { body }));
export const getLists = () => read(client.GET("/lists"));
export const lookAtList = (body: Schemas["ListFile"]) => read(client.POST("/lists/look", { body }));
/** Straight to the program, past the outbox: a file is too large to wait on the device. */
export const takeList = (list_id: string, body: Schemas["ListTake"]) =>
  read(client.PUT("/lists/{list_id}", { params: { path: { list_id } }, body }));
export const takeListBack = (list_id: string, entry_id: string, body: Schemas["Undo"]) =>
  read(client.PUT("/lists/{list_id}/undo/{entry_id}", { params: { path: { list_id, entry_id } }, body }));
export const getEngineState = (engine_id: string) =>
  read(client.GET("/engines/{engine_id}/state", { params: { path: { engine_id } } }));
export const getServiceRecord = (engine_id: string) =>
  read(client.GET("/engines/{engine_id}/record", { params: { path: { engine_id } } }));
export const getDue = () => read(client.GET("/due"));
export const getInventory = (engine?: string, task?: string) =>
  read(client.GET("/inventory", { params: { query: { ...(engine && { engine }), ...(task && { task }) } } }));
export const getSupplier = (find: string) => read(client.GET("/supplier", { params: { query: { find } } }));
export const fitImpeller = (body: Schemas["ImpellerMeasures"]) =>
  read(client.POST("/inventory/impeller-fit", { body }));
export const getPracticeHome = () => read(client.GET("/practice"));
export const getPractice = (try_id: string) => read(client.GET("/practice/{try_id}", { params: { path: { try_id } } }));
export const beginPractice = (try_id: string, body: Schemas["PracticeBegun"]) =>
  read(client.PUT("/practice/{try_id}", { params: { path: { try_id } }, body }));
export const doInPractice = (try_id: string, entry_id: string, body: Schemas["PracticeAct"]) =>
  read(client.PUT("/practice/{try_id}/acts/{entry_id}", { params: { path: { try_id, entry_id } }, body }));
export const getPracticeReview = (try_id: string) =>
  read(client.GET("/practice/{try_id}/review", { params: { path: { try_id } } }));
export const sharePractice = (body: Schemas["PracticeShared"]) => read(client.PUT("/practice/sharing", { body }));
export const getPracticePeople = () => read(client.GET("/practice/people"));
export const getPracticeBench = () => read(client.GET("/practice/bench"));
export const beginPracticeBench = (entry_id: string, body: Schemas["PracticeBenchBegun"]) =>
  read(client.PUT("/practice/bench/{entry_id}", { params: { path: { entry_id } }, body }));
export const stopPracticeBench = () => read(client.DELETE("/practice/bench"));
export const getHindsight = () => read(client.GET("/hindsight"));
export const getMethods = () => read(client.GET("/methods"));
export const getTypes = () => read(client.GET("/plant/types"));
