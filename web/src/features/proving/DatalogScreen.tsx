import { memory } from "../../api/memory";
import { useDraft } from "../../ui/draft";
import { Alert, Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { FileButton } from "../../ui/FileButton";
import { previewDatalog, type Catalogue, type JobPage, type Schemas } from "../../api/client";
import { useSave } from "../../api/writes";
import { JobFrame } from "../../ui/job/JobFrame";
import { base64Of } from "../../api/outbox";
import { tableOf, type TypedLine } from "../../ui/fileData";
import { placeKey, placeWords } from "./live";
import { useNotice } from "../../ui/notices";
import { saysNo } from "../../ui/refusals";
import { OfJob } from "../../ui/job/OfJob";
import { useWriter } from "../../ui/Shell";
import { ScreenHead } from "../../ui/ScreenHead";
import { WhoDialog } from "../../ui/WhoDialog";
import { useSystem } from "../../ui/unitSystem";
import type { Units } from "../../ui/units";
import { wordsOf, type Words } from "../../ui/words";

/** Readings over time from a logger's file, or typed: looked at, said what is what, and taken in. */
export function DatalogScreen() {
  return <OfJob>{(p) => <Logger {...p} />}</OfJob>;
}

interface Looked {
  name: string;
  data: string;
  preview: Schemas["DatalogPreview"];
}

const typedName = "Typed readings";

function Logger({ catalogue, page, units }: { catalogue: Catalogue; page: JobPage; units: Units }) {
  const words = wordsOf(catalogue);
  const go = useNavigate();
  const { importDatalog } = useSave();
  const { kept } = useNotice();
  const name = useWriter();
  const [asking, setAsking] = useState(false);
  const [looked, setLooked] = useState<Looked>();
  const [refused, setRefused] = useState("");
  const [busy, setBusy] = useState(false);
  const look = async (fileName: string, file: Blob) => {
    setBusy(true);
    setRefused("");
    try {
      const data = await base64Of(file);
      setLooked({ name: fileName, data, preview: await previewDatalog(page.engine.id, data) });
    } catch (e) {
      setLooked(undefined);
      setRefused(saysNo(e));
    }
    setBusy(false);
  };
  const take = async (mapping: Pick<Schemas["DatalogImported"], "time" | "columns" | "time_unit">) => {
    if (!name) return setAsking(true);
    if (!looked) return;
    setBusy(true);
    setRefused("");
    try {
      await importDatalog(page.card.id, { name: looked.name, data: looked.data, ...mapping });
      kept("Taken in");
      if (looked.name === typedName) memory.set(draftName(page.card.id), undefined);
      void go(`/jobs/${page.card.id}/proving`);
    } catch (e) {
      setRefused(saysNo(e));
    }
    setBusy(false);
  };
  return (
    <JobFrame page={page} catalogue={catalogue}>
      <Box sx={{ maxWidth: 1000 }}>
        <Button component={Link} to={`/jobs/${page.card.id}/proving`} sx={{ px: 0 }}>
          ← Proving run
        </Button>
        <ScreenHead title="Readings over time" drawing="logger">
          A logger's table: columns in any order, comma, semicolon or tab, decimal comma or point. Nothing is kept
          before you have seen it.
        </ScreenHead>
        <FileButton
          name="The logger's file"
          accept=".csv,.txt,.tsv,text/csv,text/plain,text/tab-separated-values"
          onFile={(file) => void look(file.name, file)}
          variant={looked ? "outlined" : "contained"}
          disabled={busy}
          sx={{ minHeight: 56, color: looked ? "text.primary" : undefined }}
        >
          {looked ? "Another file" : "Choose the logger's file"}
        </FileButton>
        {refused && (
          <Alert severity="error" sx={{ mt: 1.5 }}>
            {refused}
          </Alert>
        )}
        {looked ? (
          <Mapping
            key={looked.data.length + looked.name}
            looked={looked}
            {...{ words, units, busy }}
            onTake={(m) => void take(m)}
          />
        ) : (
          <Typing job={page.card.id} units={units} onLook={(text) => void look(typedName, new Blob([text]))} />
        )}
      </Box>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </JobFrame>
  );
}

const notTaken = "";
const isTime = "time";

function Mapping(p: {
  looked: Looked;
  words: Words;
  units: Units;
  busy: boolean;
  onTake: (m: Pick<Schemas["DatalogImported"], "time" | "columns">) => void;
}) {
  const { preview, name } = p.looked;
  const [role, setRole] = useState(() =>
    preview.columns.map((c, i) => (i === preview.time ? isTime : c.guess ? placeKey(c.guess) : notTaken)),
  );
  const [unit, setUnit] = useState(() => preview.columns.map((c) => c.unit));
  const placeOf = (i: number) => preview.places.find((o) => placeKey(o.place) === role[i]);
  const time = role.indexOf(isTime);
  const columns = role.flatMap((_, i): Schemas["DatalogMapped"][] => {
    const offered = placeOf(i);
    return offered ? [{ column: i, place: offered.place, ...(unit[i] && { unit: unit[i] }) }] : [];
  });
  const twice = role.some((r, i) => r !== notTaken && role.indexOf(r) !== i);
  const set = <T,>(list: T[], i: number, v: T) => list.map((x, k) => (k === i ? v : x));
  return (
    <Box component="section" aria-label="What is in the file" sx={{ mt: 2 }}>
      <Typography variant="h2">
        {name}: {preview.rows} rows
      </Typography>
      {preview.left_out.map((l) => (
        <Typography key={l.why} variant="body2" sx={{ color: "text.secondary" }}>
          Left out: {l.count} × {l.why}, first in line {l.line}
        </Typography>
      ))}
      {preview.columns.map((c, i) => (
        <Box
          key={i}
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0, 1fr) 112px", md: "minmax(0, 1.2fr) minmax(0, 1fr) 130px" },
            gap: 1,
            alignItems: "center",
            borderTop: 1,
            borderColor: "divider",
            py: 1,
          }}
        >
          <Box sx={{ gridColumn: { xs: "1 / -1", md: "auto" }, minWidth: 0 }}>
            <Typography sx={{ fontWeight: 700, overflowWrap: "anywhere" }}>{c.heading || `Column ${i + 1}`}</Typography>
            <Typography variant="body2" sx={{ color: "text.secondary", overflowWrap: "anywhere" }}>
              {c.sample.join("  ·  ")}
            </Typography>
          </Box>
          <TextField
            select
            label="It is"
            value={role[i]}
            onChange={(e) => setRole(set(role, i, e.target.value))}
            sx={{ bgcolor: "background.paper", minWidth: 0 }}
          >
            <MenuItem value={notTaken}>left out</MenuItem>
            {c.time && <MenuItem value={isTime}>the time</MenuItem>}
            {c.numbers > 0 &&
              preview.places.map((o) => (
                <MenuItem key={placeKey(o.place)} value={placeKey(o.place)}>
                  {placeWords(o.place, p.words)}
                </MenuItem>
              ))}
          </TextField>
          {placeOf(i) && (
            <UnitOf at={placeOf(i)} units={p.units} value={unit[i] ?? ""} onChoose={(u) => setUnit(set(unit, i, u))} />
          )}
        </Box>
      ))}
      {twice && <Alert severity="warning">Two columns are said to be the same: take one of them away.</Alert>}
      {time < 0 && <Alert severity="warning">Say which column tells the time.</Alert>}
      <Button
        variant="contained"
        disabled={p.busy || twice || time < 0 || columns.length === 0}
        onClick={() => p.onTake({ time, columns })}
        sx={{ mt: 1.5, minHeight: 56, width: { xs: "100%", sm: "auto" } }}
      >
        Take it into the job
      </Button>
    </Box>
  );
}

function UnitOf(p: { at?: Schemas["OfferedPlace"]; units: Units; value: string; onChoose: (u: string) => void }) {
  const list = p.units.like(p.at?.unit ?? "");
  const value = list.some((u) => u.id === p.value) ? p.value : (p.at?.unit ?? "");
  return (
    <TextField
      select
      label="In"
      value={value}
      onChange={(e) => p.onChoose(e.target.value)}
      sx={{ bgcolor: "background.paper" }}
    >
      {list.map((u) => (
        <MenuItem key={u.id} value={u.id}>
          {u.symbol}
        </MenuItem>
      ))}
    </TextField>
  );
}

const blank = (minutes: string): TypedLine => ({ minutes, coolant: "", gauge: "" });

const blankLines = Array.from({ length: 12 }, (_, i) => blank(String(i)));

const draftName = (job: string) => `hevrin.typed.${job}`;

/** Coolant against time with nothing but a watch and a thermometer: a line a minute. */
function Typing({ job, units, onLook }: { job: string; units: Units; onLook: (text: string) => void }) {
  const system = useSystem();
  const symbol = units.shownAs("degC", system)?.symbol ?? "°C";
  const [lines, setLines] = useDraft<TypedLine[]>(draftName(job), blankLines, Array.isArray);
  const set = (i: number, l: Partial<TypedLine>) => setLines(lines.map((x, k) => (k === i ? { ...x, ...l } : x)));
  const told = lines.filter((l) => l.minutes.trim() && l.coolant.trim()).length;
  const cell = (i: number, field: keyof TypedLine, label: string) => (
    <TextField
      label={i === 0 ? label : undefined}
      aria-label={label}
      value={lines[i]?.[field] ?? ""}
      onChange={(e) => set(i, { [field]: e.target.value })}
      slotProps={{ htmlInput: { inputMode: "decimal", "aria-label": `${label}, line ${i + 1}` } }}
      sx={{ bgcolor: "background.paper" }}
    />
  );
  return (
    <Box component="section" aria-label="Typed readings" sx={{ mt: 3 }}>
      <Typography variant="h2">Or typed, a line a minute</Typography>
      <Typography sx={{ color: "text.secondary", mb: 1 }}>
        Ten lines and more can be judged; the gauge where you read it too.
      </Typography>
      <Stack sx={{ gap: 0.75, maxWidth: 460 }}>
        {lines.map((_, i) => (
          <Box key={i} sx={{ display: "grid", gridTemplateColumns: "1fr 1.2fr 1.2fr", gap: 0.75 }}>
            {cell(i, "minutes", "Minutes")}
            {cell(i, "coolant", `Coolant, ${symbol}`)}
            {cell(i, "gauge", `Gauge, ${symbol}`)}
          </Box>
        ))}
        <Stack direction="row" sx={{ gap: 1 }}>
          <Button onClick={() => setLines([...lines, blank(String(lines.length))])}>Another line</Button>
          <Button
            variant="contained"
            disabled={told < 2}
            onClick={() => onLook(tableOf(lines, symbol))}
            sx={{ ml: "auto" }}
          >
            Look at it
          </Button>
        </Stack>
      </Stack>
    </Box>
  );
}
