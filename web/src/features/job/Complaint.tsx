import { Box, Button, Stack, ToggleButton, ToggleButtonGroup, Typography } from "@mui/material";
import type { Catalogue, Statement, Stated } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { useCallback } from "react";
import { MarkRow } from "./MarkRow";
import type { Mark } from "./outcome";
import { footHeight } from "../../ui/Shell";
import type { Words } from "../../ui/words";

interface Props {
  catalogue: Catalogue;
  words: Words;
  possible: Set<string>;
  findings: Statement[];
  history: Statement[];
  hasSister: boolean;
  /** The complaint as it was told. */
  told?: string;
  onKeep: (entry: JobEntry, label: string) => void;
  onDone: () => void;
}

const topics: [string, string][] = [
  ["water", "At the outlet"],
  ["panel", "On the panel and in the cabin"],
  ["fluids", "Coolant, oil and bilge"],
  ["pump", "Pump and belts"],
  ["under-way", "Under way"],
];

/** What is seen and what is known, by taps. Nothing has to be answered. */
export function Complaint(p: Props) {
  const { catalogue, words } = p;
  const state = marksOf(p.findings);
  const known = marksOf(p.history);
  const grouped = new Set(catalogue.groups.flatMap((g) => g.findings));
  const bears = (id: string) => {
    const f = catalogue.findings.find((x) => x.id === id);
    return f !== undefined && [...f.causes, ...f.blocks].some((l) => p.possible.has(l.fault));
  };
  const { onKeep } = p;
  const keep = (stated: Stated[], label: string) => onKeep({ kind: "finding", stated }, label);
  const markFinding = useCallback(
    (id: string, m: Mark | undefined) =>
      onKeep(
        { kind: "finding", stated: [{ id, state: m ?? "unknown" }] },
        `${words.finding(id)}: ${say[m ?? "unknown"]}`,
      ),
    [onKeep, words],
  );
  const markHistory = useCallback(
    (id: string, m: Mark | undefined) =>
      onKeep(
        { kind: "history", stated: [{ id, state: m ?? "unknown" }] },
        `${words.history(id)}: ${say[m ?? "unknown"]}`,
      ),
    [onKeep, words],
  );
  const groups = catalogue.groups.filter((g) => g.id !== "sister-engine" || p.hasSister);
  return (
    <Stack component="section" aria-label="Complaint" sx={{ gap: 2.5 }}>
      {p.told && <Typography sx={{ fontStyle: "italic", overflowWrap: "anywhere" }}>“{p.told}”</Typography>}
      <Typography variant="h2">Symptoms: tap what you know, leave the rest.</Typography>
      {groups.map((g) => (
        <Choice
          key={g.id}
          label={g.label}
          options={g.findings.filter(bears).map((id) => [id, words.finding(id)])}
          chosen={g.findings.find((id) => state[id] === "present")}
          onChoose={(id, was) =>
            keep(
              [{ id: id ?? was ?? "", state: id ? "present" : "unknown" }],
              id ? words.finding(id) : `${g.label}: not known`,
            )
          }
        />
      ))}
      {topics.map(([topic, label]) => {
        const list = catalogue.findings.filter(
          (f) => f.source === "complaint" && f.topic === topic && !grouped.has(f.id) && bears(f.id),
        );
        return list.length === 0 ? null : (
          <Rows key={topic} label={label} rows={list} marks={state} onMark={markFinding} />
        );
      })}
      <Rows
        label="What is known of the engine"
        rows={catalogue.history.filter((h) => h.multipliers.some((m) => p.possible.has(m.fault)))}
        marks={known}
        notes={fromRecord(p.history)}
        onMark={markHistory}
      />
      <Box
        sx={{
          position: "sticky",
          bottom: { xs: `${footHeight}px`, md: 0 },
          bgcolor: "background.default",
          borderTop: 2,
          borderColor: "text.primary",
          py: 1,
          mx: { xs: -1.5, md: 0 },
          px: { xs: 1.5, md: 0 },
        }}
      >
        <Button variant="contained" size="large" fullWidth onClick={p.onDone}>
          What to look at next
        </Button>
      </Box>
    </Stack>
  );
}

const say: Record<Mark, string> = { present: "yes", absent: "no", unknown: "not known", unsure: "not sure" };

const marksOf = (list: Statement[]): Record<string, Mark> =>
  Object.fromEntries(list.map((k) => [k.id, k.q > 0.5 ? "present" : "absent"]));

interface ChoiceProps {
  label: string;
  options: [string, string][];
  chosen?: string;
  onChoose: (id: string | undefined, was: string | undefined) => void;
}

function Choice({ label, options, chosen, onChoose }: ChoiceProps) {
  return (
    <Box>
      <Typography variant="h3" id={`choice-${label}`} sx={{ mb: 0.75 }}>
        {label}
      </Typography>
      <ToggleButtonGroup
        exclusive
        value={chosen ?? null}
        onChange={(_, id: string | null) => onChoose(id ?? undefined, chosen)}
        aria-labelledby={`choice-${label}`}
        sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fit, minmax(150px, 1fr))", gap: 1 }}
      >
        {options.map(([id, text]) => (
          <ToggleButton key={id} value={id} sx={option}>
            {text}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}

const option = {
  minHeight: 52,
  textTransform: "none",
  fontSize: "1rem",
  lineHeight: 1.15,
  color: "text.primary",
  border: "1.5px solid !important",
  borderColor: "text.secondary !important",
  borderRadius: "4px !important",
  m: "0 !important",
  "&.Mui-selected, &.Mui-selected:hover": { bgcolor: "text.primary", color: "background.paper", fontWeight: 750 },
} as const;

/** What the engine's record tells, and how it knows. */
const fromRecord = (history: Statement[]) =>
  Object.fromEntries(
    history.filter((k) => k.from_record).map((k) => [k.id, `From the record: ${k.from_record ?? ""}`]),
  );

interface RowsProps {
  label: string;
  rows: { id: string; label: string }[];
  marks: Record<string, Mark>;
  notes?: Record<string, string>;
  onMark: (id: string, m: Mark | undefined) => void;
}

function Rows({ label, rows, marks, notes, onMark }: RowsProps) {
  return (
    <Stack role="group" aria-label={label} sx={{ gap: 0.75 }}>
      <Typography variant="h3">{label}</Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", lg: "1fr 1fr" }, columnGap: 4, rowGap: 0.75 }}>
        {rows.map((r) => (
          <MarkRow
            key={r.id}
            label={r.label}
            id={r.id}
            means={notes?.[r.id]}
            mark={marks[r.id]}
            onMark={onMark}
            answers={seenAnswers}
          />
        ))}
      </Box>
    </Stack>
  );
}

const seenAnswers: [Mark, string][] = [
  ["present", "Yes"],
  ["absent", "No"],
];
