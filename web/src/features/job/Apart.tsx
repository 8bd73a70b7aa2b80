import { Alert, Stack, Typography } from "@mui/material";
import type { JobPage, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { ChoiceButton } from "../../ui/ChoiceButton";
import { moment, type Words } from "../../ui/words";

type Said = Schemas["Statement"];

const stateOf = (s: Said): Schemas["StatedState"] => (s.q === 1 ? "present" : s.q === 0 ? "absent" : "unsure");
const prefix = { present: "", absent: "Not: ", unsure: "Not sure: ", unknown: "" };

/** What two people answered differently, neither knowing of the other: who said what and when; a touch settles it. */
export function Apart({
  page,
  words,
  onKeep,
}: {
  page: JobPage;
  words: Words;
  onKeep: (entry: JobEntry, label: string) => void;
}) {
  return page.apart?.map((d) => (
    <Alert
      key={d.stands.entry_id + d.other.id}
      severity="warning"
      role="group"
      aria-label={`Two answers: ${words.finding(d.stands.id)}`}
      sx={{ borderRadius: 0, "& .MuiAlert-message": { flex: 1 } }}
    >
      <Typography sx={{ fontWeight: 700 }}>Two answers: which is so?</Typography>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mt: 0.5 }}>
        {[d.stands, d.other].map((s, i) => {
          const says = prefix[stateOf(s)] + words.finding(s.id);
          return (
            <ChoiceButton
              key={s.id + s.q}
              data-on={i === 0 || undefined}
              aria-pressed={i === 0}
              onClick={() => onKeep({ kind: "finding", stated: [{ id: s.id, state: stateOf(s) }] }, says)}
            >
              {says} ({s.by}, {moment(Date.parse(s.at ?? ""))})
            </ChoiceButton>
          );
        })}
      </Stack>
    </Alert>
  ));
}
