import { Later } from "../../ui/chart/Later";
import { Box, Button, Stack, Typography } from "@mui/material";
import { lazy, useState } from "react";
import { Link, useParams } from "react-router";
import type { Catalogue, Schemas } from "../../api/client";
import { useCatalogue, useEngine, useMay, useServiceRecord, useSession, useCalculators } from "../../api/queries";
import { useSave } from "../../api/writes";
import { Loaded } from "../../ui/Loaded";
import { LogList } from "../../ui/LogList";
import { OwnerLinks } from "../../ui/OwnerLinks";
import { useNotice } from "../../ui/notices";
import { TakeAlong } from "../../ui/TakeAlong";
import { WhoDialog } from "../../ui/WhoDialog";
import { useSystem } from "../../ui/unitSystem";
import { shown, unitsOf } from "../../ui/units";
import { DueRow } from "../../ui/maintenance/DueRow";
import { Hours } from "./Hours";
import { ServiceHistory } from "./ServiceHistory";
import { Seasons } from "./Season";
import { Twin } from "./Twin";
import { useSaid } from "../../ui/quantity";
import { usePane } from "../../ui/pane";
import { useTitle } from "../../ui/title";
import { beside, useMaintenance, type DueItem, type OnUpkeep } from "../../ui/maintenance/maintenance";
import { day, wordsOf, type Words } from "../../ui/words";
import { EngineForm } from "../../ui/engine/EngineForm";
import { sidesOf } from "../../ui/engine/circuit";
import { pumpWords } from "../../ui/engine/pump";
import { StartJob } from "../../ui/job/StartJob";
import { EngineBanner } from "../../ui/job/JobBanner";
import { JobLine } from "../../ui/job/JobLine";

const TrendChart = lazy(() => import("./TrendChart").then((m) => ({ default: m.TrendChart })));

/** An engine's record: its jobs with their causes, its facts, its circuit, and every change. */
export function EngineScreen() {
  const { id = "" } = useParams();
  const engine = useEngine(id);
  const catalogue = useCatalogue();
  return (
    <Box component="main" sx={{ maxWidth: 1180, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Loaded query={catalogue}>
        {(c) => <Loaded query={engine}>{(page) => <Page catalogue={c} page={page} />}</Loaded>}
      </Loaded>
    </Box>
  );
}

const wetKinds = { flush: "Flushed", descale: "Descaled", coolant: "Coolant changed" };

/** Flush, descale, coolant that was finished, the newest first, and when the next falls due by the yard's way. */
function WetWorks({ jobs }: { jobs: Schemas["JobCard"][] }) {
  const works = jobs
    .flatMap((j) => j.works.map((w) => ({ ...w, job: j.id })))
    .sort((a, b) => (a.ended < b.ended ? 1 : -1));
  const said = useSaid();
  if (works.length === 0) return null;
  return (
    <Box component="section" aria-label="Flush, descale, coolant">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Flush, descale, coolant
      </Typography>
      {works.map((w) => (
        <Box key={`${w.job}${w.kind}${w.ended}`} sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
          <Typography>
            <strong>{wetKinds[w.kind]}</strong> {day(w.ended)}
            {w.hours ? `, ${w.hours} h` : ""}
            {w.product && `, ${w.product}`}
            {w.litres ? `, ${said(w.litres, "L")}` : ""}
            {w.words && `. ${w.words}`}
          </Typography>
          {w.due && (
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              Next by {day(w.due)}: {w.why}
            </Typography>
          )}
        </Box>
      ))}
    </Box>
  );
}

/** What the model takes for it, where each figure comes from, and the healthy round that it is held against. */
function Standing({ page }: { page: Schemas["EnginePage"] }) {
  const list = useCalculators().data?.units;
  const system = useSystem();
  const { engine, facts } = page;
  return (
    <Box component="section" aria-label="Expected values">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Expected values
      </Typography>
      <Typography sx={{ mb: 1 }}>
        {engine.baseline
          ? `Its own healthy readings of ${day(engine.baseline.at)} are the baseline, ${engine.baseline.by}.`
          : "Usual for its type. After a good run, make a round of readings its own baseline."}
        {engine.baseline?.words && ` ${engine.baseline.words}`}
      </Typography>
      {list &&
        facts.map((f) => (
          <Stack
            key={f.id}
            direction="row"
            sx={{ gap: 2, justifyContent: "space-between", borderTop: 1, borderColor: "divider", py: 0.75 }}
          >
            <Box>
              <Typography sx={{ lineHeight: 1.25 }}>{f.label}</Typography>
              <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.25 }}>
                {f.why}
              </Typography>
            </Box>
            <Typography sx={{ fontWeight: 700, flex: "none" }}>
              {shown(unitsOf(list), system, f.value, f.unit)}
            </Typography>
          </Stack>
        ))}
      <Button component={Link} to={`/engines/${engine.id}/what-if`} sx={{ px: 0, mt: 0.5 }}>
        What would overheat it?
      </Button>
    </Box>
  );
}

/** The circuit by side, each in the order of the water; the exchanger stands in both. */
function circuitBySide(catalogue: Catalogue, engine: Schemas["Engine"]): [string, string[]][] {
  const on = (sides: Schemas["Side"][]) =>
    engine.circuit.filter((id) => {
      const s = catalogue.stations.find((x) => x.id === id);
      return s && sidesOf(s, engine.family).some((x) => sides.includes(x));
    });
  const all: [string, string[]][] = [
    ["Raw water", on(["raw"])],
    ["Coolant", on(["coolant"])],
    ["Off the water", on(["instrument", "load"])],
  ];
  return all.filter(([, stations]) => stations.length > 0);
}

function Page({ catalogue, page }: { catalogue: Catalogue; page: Schemas["EnginePage"] }) {
  const { craft, engine } = page;
  const { undo } = useSave();
  const { kept, failed } = useNotice();
  const [open, setOpen] = useState<"job" | "form">();
  const [section, setSection] = usePane(sections, "now");
  useTitle(
    section === "now" ? "" : (sections.find(([s]) => s === section)?.[1] ?? ""),
    `${craft.name}, ${engine.name}`,
  );
  const record = useServiceRecord(engine.id);
  const { say, asking, setAsking } = useMaintenance();
  const words = wordsOf(catalogue);
  const list = useCalculators().data?.units;
  const system = useSystem();
  const degrees = (c: number) => (list ? shown(unitsOf(list), system, c, "degC") : `${c} °C`);
  const takeBack = (entry: string) => void undo(entry).then(() => kept("Taken back"), failed);
  return (
    <Stack sx={{ gap: 3 }}>
      <EngineBanner engine={engine.id} job={page.jobs.find((j) => !j.closed)?.id} />
      <Stack direction="row" sx={{ alignItems: "center", gap: 1, flexWrap: "wrap" }}>
        <Box sx={{ mr: "auto" }}>
          <Typography variant="h1">
            {craft.name}, {engine.name}
          </Typography>
          <Typography sx={{ color: "text.secondary" }}>
            {catalogue.families.find((f) => f.id === engine.family)?.label}, {engine.fuel}, {engine.rated_kw} kW at{" "}
            {engine.rated_rpm} rev/min, thermostat {degrees(engine.thermostat_c)}
            {pumpWords(engine)}
            {engine.shares_seacock && ", one seacock with other engines aboard"}
            {engine.archived && ". In the archive: nothing is due on it"}
          </Typography>
        </Box>
        <Button
          variant="outlined"
          sx={{ borderColor: "text.primary", color: "text.primary" }}
          onClick={() => setOpen("form")}
        >
          Change facts
        </Button>
        <Start onStart={() => setOpen("job")} />
      </Stack>
      <TakeAlong craft={craft.id} name={craft.name} />
      <Sections chosen={section} onChoose={setSection} />
      {section === "facts" ? (
        <Facts {...{ catalogue, page, words }} onUndo={takeBack} />
      ) : (
        <Loaded query={record}>{(r) => <RecordSection {...{ section, page, words }} record={r} onSay={say} />}</Loaded>
      )}
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
      {open === "form" && <EngineForm craftId={craft.id} engine={engine} onClose={() => setOpen(undefined)} />}
      {open === "job" && <StartJob engine={engine} craft={craft.name} onClose={() => setOpen(undefined)} />}
    </Stack>
  );
}

function Start({ onStart }: { onStart: () => void }) {
  if (!useMay("work")) return null;
  return (
    <Button variant="contained" onClick={onStart}>
      Start a job
    </Button>
  );
}

type Section = "now" | "trends" | "life" | "seasons" | "facts";

const sections: [Section, string][] = [
  ["now", "Due, and jobs"],
  ["trends", "Trends"],
  ["life", "Service history"],
  ["seasons", "Lay-up and spring"],
  ["facts", "Facts"],
];

function Sections({ chosen, onChoose }: { chosen: Section; onChoose: (s: Section) => void }) {
  return (
    <Stack
      component="nav"
      aria-label="The engine's record"
      direction="row"
      sx={{ overflowX: "auto", borderBottom: 2, borderColor: "text.primary" }}
    >
      {sections.map(([s, label]) => (
        <Button
          key={s}
          aria-pressed={s === chosen}
          onClick={() => onChoose(s)}
          sx={{
            flex: "none",
            color: "text.primary",
            borderRadius: 0,
            borderBottom: 5,
            borderColor: s === chosen ? "text.primary" : "transparent",
            fontWeight: s === chosen ? 750 : 500,
          }}
        >
          {label}
        </Button>
      ))}
    </Stack>
  );
}

/** In a yard, who may hand things out gives the owner a page to read. */
function ForTheOwner({ engine }: { engine: string }) {
  const hands = useMay("hand");
  const inYard = useSession()?.mode === "yard";
  return hands && inYard ? <OwnerLinks of={{ engine }} /> : null;
}

function RecordSection(p: {
  section: Section;
  page: Schemas["EnginePage"];
  record: Schemas["ServiceRecord"];
  words: Words;
  onSay: OnUpkeep;
}) {
  const { section, page, record, words, onSay } = p;
  const engine = page.engine.id;
  switch (section) {
    case "trends":
      return (
        <Box
          sx={{
            display: "grid",
            gap: 2,
            gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "repeat(2, minmax(0, 1fr))" },
          }}
        >
          {[...record.trends]
            .sort((a, b) => Number(b.points.length > 0) - Number(a.points.length > 0))
            .map((t) => (
              <Later key={t.id} height={320}>
                <TrendChart trend={t} />
              </Later>
            ))}
        </Box>
      );
    case "life":
      return <ServiceHistory record={record} words={words} />;
    case "seasons":
      return <Seasons engine={engine} seasons={record.seasons} onSay={onSay} />;
    default:
      return (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 3fr) minmax(0, 2fr)" },
            gap: 4,
          }}
        >
          <Stack sx={{ gap: 3 }}>
            <OpenJobs jobs={page.jobs} words={words} />
            <DueHere {...{ engine, record, onSay }} />
          </Stack>
          <Stack sx={{ gap: 3 }}>
            <Hours engine={engine} hours={record.hours} onSay={onSay} />
            <Twin engine={page.engine} record={record} />
            <Jobs jobs={page.jobs} words={words} />
            <ForTheOwner engine={engine} />
          </Stack>
        </Box>
      );
  }
}

/** What is wrong now comes first: the jobs that are open. */
function OpenJobs({ jobs, words }: { jobs: Schemas["JobCard"][]; words: Words }) {
  const open = jobs.filter((j) => !j.closed);
  if (open.length === 0) return null;
  return (
    <Box component="section" aria-label="Open now">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Open now
      </Typography>
      <Box sx={{ bgcolor: "background.paper", px: 1.5 }}>
        {open.map((j) => (
          <JobLine key={j.id} job={j} words={words} />
        ))}
      </Box>
    </Box>
  );
}

interface DueProps {
  engine: string;
  record: Schemas["ServiceRecord"];
  onSay: OnUpkeep;
}

/** What is due presses or is folded away: later, and not known. */
function DueHere({ engine, record, onSay }: DueProps) {
  const [all, setAll] = useState(false);
  const presses = (d: DueItem) => d.state === "overdue" || d.state === "soon";
  const now = record.due.filter(presses);
  const rest = record.due.filter((d) => !presses(d));
  const shown = all || now.length === 0 ? [...now, ...rest] : now;
  return (
    <Box component="section" aria-label="Due">
      <Typography variant="h2" sx={{ mb: 1 }}>
        Due
      </Typography>
      {shown.map((d) => (
        <DueRow key={d.item} engine={engine} item={d} beside={beside(d, record.groups, record.due)} onSay={onSay} />
      ))}
      {shown.length < record.due.length && (
        <Button onClick={() => setAll(true)} sx={{ px: 0 }}>
          Later, and not known: {rest.length}
        </Button>
      )}
    </Box>
  );
}

function Jobs({ jobs, words }: { jobs: Schemas["JobCard"][]; words: Words }) {
  return (
    <Stack component="section" aria-label="Jobs">
      <Typography variant="h2" sx={{ mb: 1 }}>
        Jobs
      </Typography>
      {jobs.length === 0 && <Typography sx={{ color: "text.secondary" }}>None yet.</Typography>}
      {jobs.map((j) => (
        <Box key={j.id} sx={{ bgcolor: "background.paper", px: 1.5 }}>
          <JobLine job={j} words={words} />
          {j.note && <Typography sx={{ pl: "38px", pb: 1.25, mt: -0.5 }}>{j.note}</Typography>}
        </Box>
      ))}
    </Stack>
  );
}

function Facts(p: {
  catalogue: Catalogue;
  page: Schemas["EnginePage"];
  words: Words;
  onUndo: (entry: string) => void;
}) {
  const { page, words } = p;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) minmax(0, 1fr)" },
        gap: 4,
      }}
    >
      <Stack sx={{ gap: 3 }}>
        <Box component="section" aria-label="Circuit">
          <Typography variant="h2" sx={{ mb: 1 }}>
            Circuit
          </Typography>
          {circuitBySide(p.catalogue, page.engine).map(([side, stations]) => (
            <Typography key={side} sx={{ mb: 1, lineHeight: 1.5 }}>
              <strong>{side}:</strong> {stations.map(words.station).join(" → ")}
            </Typography>
          ))}
        </Box>
        <WetWorks jobs={page.jobs} />
        <Standing page={page} />
      </Stack>
      <LogList log={page.log} words={words} onUndo={p.onUndo} />
    </Box>
  );
}
