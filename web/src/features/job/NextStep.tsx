import { Navigate, useParams } from "react-router";
import { useJob } from "../../api/queries";
import { nextStep, stepsOf } from "../../ui/job/steps";
import { Loaded } from "../../ui/Loaded";

/** Opens a job at the step that is next. */
export function NextStep() {
  const { id = "" } = useParams();
  const job = useJob(id);
  return (
    <Loaded query={job}>
      {(page) => <Navigate replace to={stepsOf(page).find((s) => s.id === nextStep(page))?.to ?? `/jobs/${id}`} />}
    </Loaded>
  );
}
