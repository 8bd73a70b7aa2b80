import { Box, Stack, TextField, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { day, lower, type Words } from "../../ui/words";
import { told } from "../../ui/maintenance/maintenance";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Line = Schemas["ServiceLine"];

/** What can be looked for, each with the kinds of line that it shows. */
const filters: { id: string; label: string; kinds: Line["kind"][] }[] = [
  { id: "jobs", label: "Jobs and causes", kinds: ["opened", "cause"] },
  { id: "done", label: "Done", kinds: ["done", "work"] },
  { id: "parts", label: "Parts", kinds: ["part"] },
  { id: "readings", label: "Readings", kinds: ["round", "measure", "recording", "hours"] },
  { id: "runs", label: "Runs", kinds: ["run"] },
  { id: "photos", label: "Photos", kinds: ["photo"] },
];

const works: Record<string, string> = { flush: "Flushed", descale: "Descaled", coolant: "Coolant changed" };
const measures: Record<string, [string, string]> = {
  ua: ["Exchanger", "percent"],
  "raw-flow": ["Raw flow", "percent"],
  gauge: ["Gauge off by", "K"],
  approach: ["Approach over healthy", "K"],
  plateau: ["Plateau over rating", "K"],
};
const outcomes: Record<string, string> = {
  cured: "Proved: cured",
  "not-cured": "Proved: not cured",
  tight: "Leak run: tight, not proved under load",
};

/** A line of its service history in words. */
export function serviceWords(l: Line, words: Words, labels: Map<string, string>): string {
  const after = l.label ? `. ${l.label}` : "";
  const [measure, unit] = measures[l.item] ?? [l.item, ""];
  const say: Record<Line["kind"], () => string> = {
    opened: () => `Job begun: ${l.label || "no words"}`,
    cause: () => `Job closed: ${l.item.split(" ").filter(Boolean).map(words.fault).join(", ") || "no cause"}${after}`,
    done: () => `${labels.get(l.item) ?? l.item}: done`,
    work: () => `${works[l.item] ?? l.item}${after}`,
    measure: () => `${measure}: ${told(unit, l.value, l.error)}`,
    hours: () => `Meter: ${l.value} h`,
    round: () => `Round at ${l.value} rev/min${after}`,
    run: () => `${outcomes[l.item] ?? "Test run"}${after}`,
    part: () => `${l.value} × ${l.label}${l.item && `, ${l.item}`}`,
    photo: () => l.label || "A photo",
    recording: () => `Recorded ${Math.round(l.value / 60)} min${after}`,
  };
  return say[l.kind]();
}

/** Figures of one round in one line. */
function joined(list: { line: Line; text: string }[]) {
  const out: { line: Line; text: string }[] = [];
  for (const x of list) {
    const last = out[out.length - 1];
    if (last && x.line.kind === "measure" && last.line.kind === "measure" && last.line.at === x.line.at)
      out[out.length - 1] = { ...last, text: `${last.text}; ${lower(x.text)}` };
    else out.push(x);
  }
  return out;
}

/** The engine's service history, newest first, year by year; found by words and by kind. */
export function ServiceHistory({ record, words }: { record: Schemas["ServiceRecord"]; words: Words }) {
  const [off, setOff] = useState<string[]>([]);
  const [find, setFind] = useState("");
  const labels = useMemo(() => new Map(record.due.map((d) => [d.item, d.label])), [record.due]);
  const shown = useMemo(() => {
    const kinds = new Set(filters.filter((f) => !off.includes(f.id)).flatMap((f) => f.kinds));
    const wanted = find.trim().toLowerCase();
    return joined(
      record.life.filter((l) => kinds.has(l.kind)).map((l) => ({ line: l, text: serviceWords(l, words, labels) })),
    )
      .filter((x) => x.text.toLowerCase().includes(wanted))
      .reverse();
  }, [record.life, off, find, words, labels]);
  const years = [...new Set(shown.map((x) => x.line.at.slice(0, 4)))];
  return (
    <Box component="section" aria-label="Service history">
      <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap", alignItems: "center", mb: 1.5 }}>
        {filters.map((f) => (
          <ChoiceButton
            key={f.id}
            aria-pressed={!off.includes(f.id)}
            onClick={() => setOff(off.includes(f.id) ? off.filter((x) => x !== f.id) : [...off, f.id])}
            data-on={!off.includes(f.id)}
          >
            {f.label}
          </ChoiceButton>
        ))}
        <TextField
          size="small"
          label="Find in the service history"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
      </Stack>
      {shown.length === 0 && <Typography>Nothing on record that fits.</Typography>}
      {years.map((y) => (
        <Box key={y} sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "70px 1fr" }, mb: 1 }}>
          <Typography variant="h2">{y}</Typography>
          <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0, borderLeft: 4, borderColor: "text.primary", pl: 2 }}>
            {shown
              .filter((x) => x.line.at.startsWith(y))
              .map((x, i) => (
                <Row key={i} line={x.line} text={x.text} />
              ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function Row({ line: l, text }: { line: Line; text: string }) {
  const { water } = useTheme();
  const strong = (l.kind === "cause" && l.item !== "") || l.kind === "run";
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", sm: "120px 84px 1fr auto" },
        columnGap: 1.5,
        py: 0.5,
        borderBottom: 1,
        borderColor: "divider",
        position: "relative",
        "&::before": {
          content: '""',
          position: "absolute",
          left: -25,
          top: 10,
          width: 14,
          height: 14,
          bgcolor: strong ? water.found : water.panel,
          border: "3px solid",
          borderColor: "text.primary",
          borderRadius: strong ? 0 : 7,
        },
      }}
    >
      <Typography sx={{ color: "text.secondary" }}>{day(l.at)}</Typography>
      <Typography sx={{ color: "text.secondary" }}>{l.hours ? `${l.hours} h` : ""}</Typography>
      <Typography sx={{ fontWeight: strong ? 700 : 450, overflowWrap: "anywhere" }}>{text}</Typography>
      {(l.kind === "opened" || l.kind === "photo") && (
        <Box component={Link} to={`/jobs/${l.job_id}`} sx={{ color: "text.primary" }}>
          Job
        </Box>
      )}
    </Box>
  );
}
