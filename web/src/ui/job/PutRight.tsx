import { Typography } from "@mui/material";
import type { JobPage } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { PartNeeded, usePartNeeded } from "../practice/PartNeeded";
import { when, type Words } from "../words";
import { ChoiceButton } from "../ChoiceButton";

interface Props {
  page: JobPage;
  words: Words;
  fault: string;
  onKeep: (entry: JobEntry, label: string) => void;
}

/** One touch says that a fault is put right, and who said so. */
export function PutRight({ page, words, onKeep, fault }: Props) {
  const part = usePartNeeded(fault);
  const done = page.repaired.find((r) => r.fault === fault);
  if (done)
    return (
      <Typography sx={{ fontWeight: 650 }}>
        Put right{done.by && done.at ? `: ${done.by}, ${when(done.at)}` : ": the run was signed as cured"}
      </Typography>
    );
  if (part) return <PartNeeded part={part} />;
  return (
    <ChoiceButton
      sx={{ mt: 0.5 }}
      aria-label={`Done: put right: ${words.fault(fault)}`}
      onClick={() =>
        onKeep({ kind: "strip", strip: { do: "put-right", item: fault } }, `Put right: ${words.fault(fault)}`)
      }
    >
      Done: put right
    </ChoiceButton>
  );
}
