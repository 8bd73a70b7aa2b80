import type { ReactNode } from "react";
import { useParams } from "react-router";
import type { Catalogue, JobPage } from "../../api/client";
import { useCatalogue, useJob, useCalculators } from "../../api/queries";
import { Loaded } from "../Loaded";
import { unitsOf, type Units } from "../units";

interface Page {
  catalogue: Catalogue;
  page: JobPage;
  units: Units;
}

/** A screen of the job in the address, once the job, the catalogue and the units are there. */
export function OfJob({ children }: { children: (p: Page) => ReactNode }) {
  const { id = "" } = useParams();
  const job = useJob(id);
  const catalogue = useCatalogue();
  const sums = useCalculators();
  return (
    <Loaded query={catalogue}>
      {(c) => (
        <Loaded query={sums}>
          {(s) => <Loaded query={job}>{(page) => children({ catalogue: c, page, units: unitsOf(s.units) })}</Loaded>}
        </Loaded>
      )}
    </Loaded>
  );
}
