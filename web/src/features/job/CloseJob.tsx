import {
  Alert,
  Autocomplete,
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from "@mui/material";
import type { Answer, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { percent } from "../../ui/stations";
import { useUnkept } from "../../ui/unkept";
import { settling, touchOf } from "../../ui/job/settle";
import { numberOf } from "../../ui/job/wetwork";
import { lower, type Words } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Props {
  job: string;
  /** No cause is asked of a planned job; this is what of its plan is left. */
  planned?: string[];
  answer: Answer;
  /** What was found in the job, what was put right since among it. */
  found: string[];
  /** Every fault that this engine can have. */
  possible: string[];
  /** What tells which of several it was: looks at what came out. */
  checks: Schemas["Check"][];
  /** What still stands in the way: parts off, seals unmatched, an isolation, what a check opened. */
  standing: Schemas["Condition"][];
  /** The same in words, with what no one touch settles. */
  says: string[];
  words: Words;
  onClose: () => void;
  onKeep: (entry: JobEntry, label: string) => void;
}

interface Draft {
  faults: string[];
  /** Of several, it was one, and nobody knows which. */
  oneOf?: boolean;
  explains?: boolean;
  note: string;
  despite: string;
  watch?: string;
}

/** The closing as it is kept. */
function entryOf(
  { faults, oneOf, explains, note, despite, watch }: Draft,
  planned: string[] | undefined,
  says: string[],
  unsure: boolean,
): JobEntry {
  const { hours } = watchOf(watch);
  return {
    kind: "closed",
    ...(faults.length > 0 && { faults }),
    ...(unsure && oneOf && { one_of_these: true }),
    explains_everything: planned ? planned.length === 0 : explains === true,
    ...(note.trim() && { words: note.trim() }),
    ...(says.length > 0 && { despite: despite.trim() }),
    ...(hours && { watch_hours: hours }),
  };
}

/** Whether of several causes not all were seen: it may have been one of them. */
const mayBeOneOf = (faults: string[], found: string[]) => faults.length > 1 && faults.some((f) => !found.includes(f));

/** Whether all was said that a closing needs, its note apart. */
const isReady = (d: Draft, planned: string[] | undefined, says: string[], unsure: boolean) =>
  !watchOf(d.watch).wrong &&
  (!unsure || d.oneOf !== undefined) &&
  (planned || d.explains !== undefined) &&
  (says.length === 0 || d.despite.trim() !== "");

/** How many of the suspects are offered by a touch; the others by a word. */
const offeredSuspects = 4;

/** Ends a job: which cause, does it explain everything, and a note. */
export function CloseJob(p: Props) {
  const { job, planned, answer, found, possible, checks, standing, says, words, onClose, onKeep } = p;
  const [draft, setDraft, forget] = useUnkept<Draft>(job, "How the job ends", {
    faults: found,
    explains: found.length > 0 && answer.unexplained.length === 0 ? true : undefined,
    note: "",
    despite: "",
    watch: "",
  });
  const { faults, oneOf, explains, note, despite, watch } = draft;
  const unsure = mayBeOneOf(faults, found);
  const change = (to: Partial<typeof draft>) => setDraft({ ...draft, ...to });
  const needsNote = !planned && faults.length === 0 && note.trim() === "";
  const ready = !needsNote && isReady(draft, planned, says, unsure);
  const keep = () => {
    onKeep(entryOf(draft, planned, says, unsure), "Job closed");
    forget();
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="close-title">
      <DialogTitle id="close-title" component="h2">
        {planned ? "Close the job?" : "What was it?"}
      </DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 2 }}>
          {planned ? (
            planned.length > 0 && <Typography>Not done: {planned.map(lower).join(", ")}. It stays due.</Typography>
          ) : (
            <Cause {...{ answer, found, possible, checks, words, faults, oneOf, explains }} onChange={change} />
          )}
          <TextField
            label="Note for the engine's record"
            multiline
            minRows={2}
            value={note}
            onChange={(e) => change({ note: e.target.value })}
            slotProps={{ htmlInput: { maxLength: 4000 } }}
            helperText={
              needsNote
                ? "No cause is chosen: say in a few words why the job ends here."
                : "What was done, parts, hours."
            }
            error={needsNote}
          />
          {!planned && <Watch watch={watch} onChange={(hours) => change({ watch: hours })} />}
          {says.length > 0 && (
            <Standing {...{ standing, says, despite, onKeep }} onDespite={(words) => change({ despite: words })} />
          )}
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={onClose}>Go on looking</Button>
        <Button variant="contained" onClick={keep} disabled={!ready}>
          Close the job
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** For how many running hours a trouble is on watch where nobody says otherwise; common practice. */
const usualWatch = "25";
const mostWatch = 1000;

/** What was typed of a watch: its hours, or that it does not fit; neither where there is none. */
function watchOf(typed = ""): { hours?: number; wrong?: boolean } {
  if (typed === "") return {};
  const hours = numberOf(typed);
  return hours !== undefined && hours >= 1 && hours <= mostWatch ? { hours } : { wrong: true };
}

/** A trouble that comes and goes is on watch: it comes back as a due item. */
function Watch({ watch = "", onChange }: { watch?: string; onChange: (hours: string) => void }) {
  return (
    <Stack sx={{ gap: 1.5, alignItems: "flex-start" }}>
      <ChoiceButton
        data-on={watch !== ""}
        aria-pressed={watch !== ""}
        onClick={() => onChange(watch === "" ? usualWatch : "")}
      >
        It comes and goes: on watch
      </ChoiceButton>
      {watch !== "" && (
        <TextField
          label="On watch for, running hours"
          value={watch}
          onChange={(e) => onChange(e.target.value || " ")}
          error={watchOf(watch).wrong}
          helperText={watchOf(watch).wrong ? `Type 1 to ${mostWatch} hours.` : "Due then, or within half a year."}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
      )}
    </Stack>
  );
}

interface CauseProps extends Pick<Props, "answer" | "found" | "possible" | "words" | "checks"> {
  faults: string[];
  oneOf?: boolean;
  explains?: boolean;
  onChange: (to: { faults?: string[]; oneOf?: boolean; explains?: boolean }) => void;
}

/** Which cause, and whether it explains everything. */
function Cause(p: CauseProps) {
  return (
    <>
      <Causes {...p} onChange={(list) => p.onChange({ faults: list })} />
      {mayBeOneOf(p.faults, p.found) && <OneOf {...p} />}
      {!p.answer.done && p.answer.found.length > 0 && (
        <Alert severity="warning">
          Another fault is still {percent(p.answer.other_fault)} likely. Close it all the same if you know better.
        </Alert>
      )}
      <Box>
        <Typography variant="h3">Does it explain everything that was seen?</Typography>
        {p.answer.unexplained.length > 0 && (
          <Typography sx={{ mt: 0.5 }}>
            Not explained by it: {p.answer.unexplained.map(p.words.finding).join(", ")}.
          </Typography>
        )}
        <YesOrNo
          label="Does it explain everything?"
          yes="Yes, all of it"
          no="Not all"
          value={p.explains}
          onChange={(explains) => p.onChange({ explains })}
        />
      </Box>
    </>
  );
}

/** Of causes put right together and not all seen: were they all wrong, or was it one of them; and what still tells. */
function OneOf({ faults, found, checks, oneOf, onChange }: CauseProps) {
  const tell = checks.filter(
    (k) => k.of_removed_part && k.confirms.some((f) => faults.includes(f) && !found.includes(f)),
  );
  return (
    <Box>
      <Typography variant="h3">Were all of them wrong?</Typography>
      {tell.length > 0 && (
        <Typography sx={{ mt: 0.5 }}>
          Not seen for sure. What came out still tells, until it is thrown away:{" "}
          {tell.map((k) => lower(k.label)).join(", ")}.
        </Typography>
      )}
      <YesOrNo
        label="Were all of them wrong?"
        yes="Yes, each of them"
        no="One of these: which is not known"
        value={oneOf === undefined ? undefined : !oneOf}
        onChange={(all) => onChange({ oneOf: !all })}
      />
    </Box>
  );
}

interface YesOrNoProps {
  label: string;
  yes: string;
  no: string;
  value?: boolean;
  onChange: (v: boolean) => void;
}

function YesOrNo(p: YesOrNoProps) {
  return (
    <ToggleButtonGroup
      exclusive
      value={p.value ?? null}
      onChange={(_, v: boolean | null) => v !== null && p.onChange(v)}
      sx={{ mt: 1, gap: 1, flexWrap: "wrap" }}
      aria-label={p.label}
    >
      <ToggleButton value={true} sx={toggle}>
        {p.yes}
      </ToggleButton>
      <ToggleButton value={false} sx={toggle}>
        {p.no}
      </ToggleButton>
    </ToggleButtonGroup>
  );
}

interface StandingProps extends Pick<Props, "standing" | "says" | "onKeep"> {
  despite: string;
  onDespite: (t: string) => void;
}

/** What is still open, each a touch from being settled where a touch will do, and why the job ends all the same. */
function Standing(p: StandingProps) {
  return (
    <>
      <Alert severity="error">
        {p.says.map((w) => (
          <div key={w}>{w}</div>
        ))}
      </Alert>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 1 }}>
        {p.standing
          .filter((c) => c.settle && !c.asks_words)
          .map((c) => (
            <ChoiceButton key={c.id} onClick={() => p.onKeep(settling(c), c.label)}>
              {c.label}: {lower(touchOf(c))}
            </ChoiceButton>
          ))}
      </Stack>
      <TextField
        label="Closed all the same, because"
        multiline
        value={p.despite}
        onChange={(e) => p.onDespite(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 4000 } }}
      />
    </>
  );
}

interface CausesProps extends Pick<Props, "answer" | "found" | "possible" | "words"> {
  faults: string[];
  onChange: (faults: string[]) => void;
}

/** The causes: what was found and the likeliest by a touch, any other by a word of it; several, or none. */
function Causes({ answer, found, possible, words, faults, onChange }: CausesProps) {
  const offered = [...new Set([...found, ...faults, ...answer.suspects.slice(0, offeredSuspects).map((s) => s.fault)])];
  return (
    <>
      <ToggleButtonGroup
        value={faults}
        onChange={(_, list: string[]) => onChange(list)}
        aria-label="The cause"
        sx={{ flexWrap: "wrap", gap: 1 }}
      >
        {offered.map((f) => (
          <ToggleButton key={f} value={f} sx={toggle}>
            {words.fault(f)}
            {found.includes(f) && " (found)"}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Autocomplete
        key={faults.join(" ")}
        options={possible.filter((f) => !faults.includes(f))}
        getOptionLabel={words.fault}
        value={null}
        onChange={(_, f) => f && onChange([...faults, f])}
        noOptionsText="No fault of this engine has that word"
        renderInput={(params) => <TextField {...params} label="Another cause, by a word of it" />}
      />
    </>
  );
}

const toggle = {
  minHeight: 48,
  textTransform: "none",
  fontSize: "1rem",
  color: "text.primary",
  border: "1.5px solid !important",
  borderRadius: "4px !important",
  m: "0 !important",
  "&.Mui-selected, &.Mui-selected:hover": { bgcolor: "text.primary", color: "background.paper", fontWeight: 750 },
} as const;
