import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { clock } from "./clock";
import { importDatalog, type JobPage, type Schemas } from "./client";
import { answered } from "./answered";
import { rememberOwn } from "./changes";
import { newID } from "./ids";
import { keys, touchedBy } from "./keys";
import { outbox } from "./outbox";
import type { paths } from "./schema.gen";
import { writer } from "./writer";

type Json<T> = { content: { "application/json": T } };
/** The addresses that take a write. */
type WritePath = {
  [P in keyof paths]: paths[P] extends { put: { requestBody: Json<unknown> } } ? P : never;
}[keyof paths];
type Body<P extends WritePath> = paths[P] extends { put: { requestBody: Json<infer B> } } ? B : never;
type Answer<P extends WritePath> = paths[P] extends { put: { responses: { 200: Json<infer A> } } } ? A : never;
type Params<P extends WritePath> = paths[P] extends { parameters: { path: infer X } } ? X : never;
/** What the outbox adds by itself. */
type Stamped = "by" | "tapped_at";

interface Write<P extends WritePath> {
  params: Params<P>;
  body: Omit<Body<P>, Stamped>;
  /** What it says, in words, while it waits. */
  label: string;
  photo?: Blob;
  /** The form that sends it keeps what was typed when it is refused. */
  form?: boolean;
}

/** Sends a write through the outbox: only what the contract knows compiles. */
async function put<P extends WritePath>(path: P, w: Write<P>): Promise<Answer<P>> {
  const params = w.params as Record<string, string>;
  const id = params.entry_id ?? (w.body as { entry_id?: string }).entry_id ?? newID();
  rememberOwn(id);
  const body = { ...w.body, by: writer.by(), tapped_at: clock.stamp() };
  const at = path.replace(/\{(\w+)\}/g, (_, name: string) => params[name] ?? "");
  const { label, photo, form } = w;
  return (await outbox.post({ id, path: at, body, label, photo, form })) as Answer<P>;
}

export type JobEntry = Omit<Schemas["JobEntry"], Stamped>;

/** Everything that can be saved. Each settles when the program has it; what waits for a link is shown meanwhile. */
export function useSave() {
  const cache = useQueryClient();
  return useMemo(() => {
    const touched = (kind: Schemas["SubjectKind"], id: string, but?: readonly unknown[]) =>
      Promise.all(
        touchedBy[kind](id)
          .filter((k) => k.join() !== but?.join())
          .map((queryKey) => cache.invalidateQueries({ queryKey })),
      );
    const jobChanged = (page: JobPage) => answered(cache, keys.job(page.card.id), page);
    return {
      noteInJob: async (job_id: string, entry: JobEntry, label: string, photo?: Blob) => {
        const entry_id = newID();
        jobChanged(
          await put("/jobs/{job_id}/entries/{entry_id}", { params: { job_id, entry_id }, body: entry, label, photo }),
        );
        return entry_id;
      },
      startJob: async (engine_id: string, start: Omit<Schemas["JobStart"], Stamped | "entry_id" | "engine_id">) => {
        const job_id = newID();
        const body = { entry_id: newID(), engine_id, ...start };
        jobChanged(await put("/jobs/{job_id}", { params: { job_id }, body, label: "A job started" }));
        await touched("job", job_id, keys.job(job_id));
        return job_id;
      },
      undo: async (undoes: string) => {
        const entry_id = newID();
        const done = await put("/undo/{entry_id}", {
          params: { entry_id },
          body: { undoes },
          label: "Something taken back",
        });
        await touched(done.subject_kind, done.subject_id);
      },
      saveCraft: async (craft_id: string, facts: Omit<Schemas["CraftEntry"], Stamped | "entry_id">) => {
        const body = { entry_id: newID(), ...facts };
        await put("/craft/{craft_id}", { params: { craft_id }, body, label: "A craft saved", form: true });
        await touched("craft", craft_id);
      },
      saveEngine: async (engine_id: string, facts: Omit<Schemas["EngineEntry"], Stamped | "entry_id">) => {
        const body = { entry_id: newID(), ...facts };
        await put("/engines/{engine_id}", { params: { engine_id }, body, label: "An engine saved", form: true });
        await touched("engine", engine_id);
      },
      saveBaseline: async (engine_id: string, job_id: string, rounds: string[], words: string) => {
        const body = { entry_id: newID(), job_id, rounds, ...(words && { words }) };
        const write = { params: { engine_id }, body, label: "A baseline saved", form: true };
        answered(cache, keys.engine(engine_id), await put("/engines/{engine_id}/baseline", write));
        await touched("engine", engine_id, keys.engine(engine_id));
        return body.entry_id;
      },
      saveFeed: async (engine_id: string, feed: Schemas["Feed"]) => {
        const body = { entry_id: newID(), feed };
        const write = { params: { engine_id }, body, label: "A gateway saved", form: true };
        answered(cache, keys.engine(engine_id), await put("/engines/{engine_id}/feed", write));
        await touched("engine", engine_id, keys.engine(engine_id));
        return body.entry_id;
      },
      noteMethod: async (entry: Omit<Schemas["MethodEntry"], Stamped>, label: string) => {
        const entry_id = newID();
        const write = { params: { entry_id }, body: entry, label, form: true };
        answered(cache, keys.methods(), await put("/methods/entries/{entry_id}", write));
        await touched("yard", "yard", keys.methods());
        return entry_id;
      },
      noteMaintenance: async (engine_id: string, body: Omit<Schemas["MaintenanceEntry"], Stamped>, label: string) => {
        const entry_id = newID();
        const write = { params: { engine_id, entry_id }, body, label, form: true };
        answered(cache, keys.record(engine_id), await put("/engines/{engine_id}/entries/{entry_id}", write));
        await touched("engine", engine_id, keys.record(engine_id));
        return entry_id;
      },
      noteInInventory: async (act: Omit<Schemas["InventoryEntry"], Stamped>, label: string) => {
        const entry_id = newID();
        const write = { params: { entry_id }, body: act, label, form: true };
        answered(cache, keys.inventory(), await put("/inventory/entries/{entry_id}", write));
        return entry_id;
      },
      /** Straight to the program, past the outbox: a file is too large to wait on the device. */
      importDatalog: async (job: string, file: Omit<Schemas["DatalogImported"], Stamped | "entry_id">) => {
        const stamp = { entry_id: newID(), by: writer.by(), tapped_at: clock.stamp() };
        rememberOwn(stamp.entry_id);
        jobChanged(await importDatalog(job, newID(), { ...stamp, ...file }));
        return stamp.entry_id;
      },
    };
  }, [cache]);
}
