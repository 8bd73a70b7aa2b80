import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Navigate } from "react-router";
import { beginPractice, Refused } from "../../api/client";
import { keys } from "../../api/keys";
import { onThisDevice, practice } from "../../api/practice";
import { usePracticeAt } from "../../api/queries";
import { writer } from "../../api/writer";
import { Loaded } from "../../ui/Loaded";

/** A page of practice begins at its one job; where it is over, at how it went. */
export function ToTheJob() {
  const cache = useQueryClient();
  const now = usePracticeAt(practice);
  const choice = practice === undefined ? undefined : onThisDevice.choice(practice);
  const none = now.error instanceof Refused && now.error.problem.status === 404;
  useEffect(() => {
    // chosen on this device without a link, and not begun yet
    if (practice && choice && none)
      void beginPractice(practice, { ...choice, by: writer.by() }).then(
        (p) => void cache.setQueryData(keys.practice(p.id), p),
        () => undefined, // said by what is asked next
      );
  }, [choice, none, cache]);
  if (choice && none) return null;
  return <Loaded query={now}>{(p) => <Navigate replace to={p.over ? "/review" : `/jobs/${p.job_id}`} />}</Loaded>;
}
