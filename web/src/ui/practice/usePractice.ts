import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { answered } from "../../api/answered";
import { doInPractice, type Schemas } from "../../api/client";
import { newID } from "../../api/ids";
import { keys } from "../../api/keys";
import { practice, practiceNews } from "../../api/practice";
import { usePracticeAt } from "../../api/queries";
import { writer } from "../../api/writer";

type Act = Omit<Schemas["PracticeAct"], "by" | "tapped_at">;

/** The practice that this page is in, kept up to date with what is done on it. */
export function usePracticeNow(): Schemas["Practice"] | undefined {
  const cache = useQueryClient();
  useEffect(
    () => practiceNews.onChange(() => practice && void cache.invalidateQueries({ queryKey: keys.practice(practice) })),
    [cache],
  );
  return usePracticeAt(practice).data;
}

/** Does something in the practice: look, wait, prove, take a hint, end it. One at a time. */
export function useDo(): { busy: boolean; failed?: string; act: (a: Act) => Promise<Schemas["Practice"] | undefined> } {
  const cache = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<string>();
  const act = useCallback(
    async (a: Act) => {
      if (!practice || busy) return undefined;
      setBusy(true);
      setFailed(undefined);
      try {
        const now = await doInPractice(practice, newID(), { ...a, by: writer.by() });
        answered(cache, keys.practice(practice), now);
        practiceNews.tell(now.dangers);
        return now;
      } catch (e) {
        setFailed(e instanceof Error ? e.message : "It could not be done: try again.");
        return undefined;
      } finally {
        setBusy(false);
      }
    },
    [busy, cache],
  );
  return { busy, failed, act };
}
