import { Box, Button, Stack, Typography } from "@mui/material";
import { Link, useNavigate } from "react-router";
import type { JobPage, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { StateShape } from "../../ui/StateShape";
import { today, useMaintenance } from "../../ui/maintenance/maintenance";
import { day, lower, type Words } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Props {
  page: JobPage;
  words: Words;
  onKeep: (entry: JobEntry, label: string) => void;
  onCheck: (check: string) => void;
  onClose: () => void;
}

/** What a planned job is to do, item by item; then a short proof. */
export function PlanPane({ page, words, onKeep, onCheck, onClose }: Props) {
  const left = page.plan.filter((p) => !p.done);
  return (
    <Box component="section" aria-label="Plan">
      <Typography variant="h2">{page.kind.label}</Typography>
      <Typography sx={{ mb: 1 }}>
        {page.card.words || `${page.kind.why.charAt(0).toUpperCase()}${page.kind.why.slice(1)}.`}
      </Typography>
      {page.plan.length === 0 && (
        <Typography>
          No item of the due list was chosen. Begin a task under Repair, make a check under Find, note what was done,
          then close the job.
        </Typography>
      )}
      {page.plan.map((p) => (
        <Item key={p.item} item={p} {...{ page, words, onKeep, onCheck }} />
      ))}
      {!page.closed && left.length === 0 && <Ends page={page} onClose={onClose} />}
    </Box>
  );
}

function Item({ item, page, words, onKeep, onCheck }: Omit<Props, "onClose"> & { item: Schemas["PlanItem"] }) {
  const go = useNavigate();
  const { say } = useMaintenance();
  const begun = page.hands.tasks.some((t) => t.id === item.task);
  const begin = () => {
    if (item.task && !begun) onKeep({ kind: "strip", strip: { do: "task", item: item.task } }, `${item.do}: begun`);
    void go(`/jobs/${page.card.id}/${item.task ? "teardown" : "wetwork"}`);
  };
  const byHand = () =>
    say(page.engine.id, { upkeep: { do: "done", item: item.item, day: today() } }, `Done: ${lower(item.label)}`);
  return (
    <Stack
      component="article"
      aria-label={`${item.do}: ${item.done ? "done" : "to do"}`}
      direction="row"
      sx={{ gap: 1.25, alignItems: "center", borderTop: 1, borderColor: "divider", py: 1, flexWrap: "wrap" }}
    >
      <StateShape state={item.done ? "clear" : "untouched"} />
      <Box sx={{ flex: 1, minWidth: 150 }}>
        <Typography sx={{ fontWeight: 700, lineHeight: 1.25 }}>{item.do}</Typography>
        {item.done_at && <Typography variant="body2">Done, {day(item.done_at)}</Typography>}
      </Box>
      {!item.done && !page.closed && (
        <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
          {(item.task || item.work) && (
            <Button variant="contained" onClick={begin}>
              {begun ? "Go on" : "Begin"}
            </Button>
          )}
          {!item.task && item.check && (
            <Button variant="contained" onClick={() => onCheck(item.check ?? "")}>
              {words.check(item.check)}
            </Button>
          )}
          <ChoiceButton onClick={byHand}>It was done</ChoiceButton>
        </Stack>
      )}
    </Stack>
  );
}

/** Every item is done: a short proof where something was opened, the report, and the end. */
function Ends({ page, onClose }: { page: JobPage; onClose: () => void }) {
  const opened = page.hands.items.length > 0;
  return (
    <Stack direction="row" sx={{ gap: 1, mt: 1.5, flexWrap: "wrap" }}>
      {opened && !page.card.verdict && (
        <Button variant="contained" component={Link} to={`/jobs/${page.card.id}/proving`}>
          A short proof
        </Button>
      )}
      <Button variant={opened && !page.card.verdict ? "choice" : "contained"} onClick={onClose}>
        Close the job
      </Button>
    </Stack>
  );
}
