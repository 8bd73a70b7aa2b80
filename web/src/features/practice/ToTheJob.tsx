import { Navigate } from "react-router";
import { practice } from "../../api/practice";
import { usePracticeAt } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";

/** A page of practice begins at its one job; where it is over, at how it went. */
export function ToTheJob() {
  const now = usePracticeAt(practice);
  return <Loaded query={now}>{(p) => <Navigate replace to={p.over ? "/review" : `/jobs/${p.job_id}`} />}</Loaded>;
}
