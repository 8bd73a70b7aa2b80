import type { Catalogue, JobPage } from "../../api/client";
import { spineOf } from "../stations";
import { Spine } from "./Spine";

interface Props {
  catalogue: Catalogue;
  page: JobPage;
  chosen?: string;
  onChoose: (station: string) => void;
}

/** The water of a job's engine as its spine; worked out where it is drawn only. */
export function Water({ catalogue, page, chosen, onChoose }: Props) {
  return <Spine circuit={page.engine.circuit} spine={spineOf(catalogue, page)} {...{ chosen, onChoose }} />;
}
