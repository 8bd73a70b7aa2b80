import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { putPresent, type Schemas } from "../../api/client";
import { newID } from "../../api/ids";
import { keys } from "../../api/keys";
import { link } from "../../api/link";
import { writer } from "../../api/writer";

/** This tab, to the program, also after a reload: nothing of it is on record. */
const page = tabID();

function tabID(): string {
  const name = "hevrin.tab";
  try {
    const id = sessionStorage.getItem(name) ?? newID();
    sessionStorage.setItem(name, id);
    return id;
  } catch {
    return newID(); // a browser that keeps nothing
  }
}

/** The check that stands open on this page. */
let open: string | undefined;

const say = (job: string, leaving = false) =>
  putPresent(job, { device: page, by: writer.by(), ...(open && { check: open }), ...(leaving && { leaving }) });

/** How often a page says that it is there; who comes and goes is pushed, and asked for this often where it is not. */
const every = 6_000;

/** Without a link nobody is heard of. */
const nobody: Schemas["Other"][] = [];

/** Who else has a job open now; while this page shows it, it says so to them. */
export function useOthers(job: string): Schemas["Other"][] {
  return (
    useQuery({
      queryKey: keys.present(job),
      queryFn: () => (link.down() ? { others: nobody } : say(job)),
      refetchInterval: every,
      staleTime: every,
      retry: false,
    }).data?.others ?? nobody
  );
}

/** Leaves a job when its screen goes. */
export function useLeaving(job: string) {
  useEffect(() => () => void say(job, true).catch(() => undefined), [job]);
}

/** Says which check stands open here, and who else has the same one open. */
export function useAtCheck(job: string, check: string): Schemas["Other"][] {
  const cache = useQueryClient();
  useEffect(() => {
    open = check;
    void cache.invalidateQueries({ queryKey: keys.present(job) });
    return () => {
      open = undefined;
    };
  }, [job, check, cache]);
  return useOthers(job).filter((o) => o.check === check);
}
