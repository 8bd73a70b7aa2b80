import { Box } from "@mui/material";
import type { JobPage } from "../../api/client";
import { Drawn } from "../Drawn";
import { useDrawn } from "../drawings";
import type { Words } from "../words";

interface Props {
  page: Pick<JobPage, "engine" | "enough">;
  fault: string;
  words: Words;
}

/** What was found as it looks, gone as far as was told; the words flow round it. */
export function FoundDrawn({ page, fault, words }: Props) {
  const drawn = useDrawn(page.engine.circuit);
  const of = drawn.fault(fault, page.enough.find((e) => e.fault === fault)?.share);
  return (
    <Box sx={{ float: "right", ml: 1 }}>
      <Drawn of={of} label={`${words.fault(fault)}: ${drawn.says(of)}`} width={148} />
    </Box>
  );
}
