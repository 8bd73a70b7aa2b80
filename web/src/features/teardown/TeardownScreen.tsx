import { Box, Button, Stack, Typography, useMediaQuery } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useMemo } from "react";
import { Link, useNavigate } from "react-router";
import type { Catalogue, JobPage, Schemas } from "../../api/client";
import { useInventoryFor, useOutbox } from "../../api/queries";
import { JobFrame } from "../../ui/job/JobFrame";
import { Workbench } from "./Workbench";
import { isolationsOf, stillOff, withWaitingActs, type Act, type TeardownAct } from "../../ui/job/teardown";
import { BeginTask, OffList } from "./OffList";
import { OnList } from "./OnList";
import { StartList } from "../../ui/job/StartList";
import { ToPutRight } from "./ToPutRight";
import { PartsUsed } from "./PartsUsed";
import { OfJob } from "../../ui/job/OfJob";
import { footHeight } from "../../ui/Shell";
import { May } from "../../ui/May";
import { WhoDialog } from "../../ui/WhoDialog";
import { usePane } from "../../ui/pane";
import { useTaps } from "../../ui/taps";
import { lower, when, wordsOf } from "../../ui/words";

/** Strip and rebuild: isolate, take off, look at it on the bench, put it back, and only then start. */
export function TeardownScreen() {
  const { waiting } = useOutbox();
  return (
    <OfJob>
      {({ catalogue, page }) => {
        const acts = waiting
          .filter(
            (l) => l.path.startsWith(`/jobs/${page.card.id}/entries/`) && !page.log.some((x) => x.entry_id === l.id),
          )
          .flatMap((l) => (l.body.strip ? [l.body.strip as TeardownAct] : []));
        return <Teardown catalogue={catalogue} page={{ ...page, hands: withWaitingActs(page.hands, acts) }} />;
      }}
    </OfJob>
  );
}

type Pane = "isolate" | "off" | "bench" | "on" | "start";

const panes: [Pane, string][] = [
  ["isolate", "Isolate"],
  ["off", "Off"],
  ["bench", "Bench"],
  ["on", "On"],
  ["start", "Start"],
];

/** Stations at which something was found that is still to be put right. */
const foundAt = (catalogue: Catalogue, page: JobPage) =>
  page.diagnosis.found
    .filter((f) => !page.repaired.some((r) => r.fault === f))
    .flatMap((f) => catalogue.faults.find((x) => x.id === f)?.stations ?? []);

/** Where a condition of the start is settled. */
const paneOf: Record<string, Pane> = { pieces: "bench" };

/** Work opens on isolate, until something came off or something is shut. */
const firstPane = ({ hands }: JobPage): Pane =>
  hands.items.some((i) => i.off > 0) || (hands.begun.length > 0 && hands.isolated.length > 0) ? "off" : "isolate";

function Teardown({ catalogue, page }: { catalogue: Catalogue; page: JobPage }) {
  const words = wordsOf(catalogue);
  const theme = useTheme();
  const wide = useMediaQuery(theme.breakpoints.up("lg"));
  const { keep, asking, setAsking } = useTaps(page.card.id);
  const go = useNavigate();
  const [pane, setPane] = usePane(panes, firstPane(page));
  const goThere = (condition: string) =>
    condition.startsWith("acid:") ? void go(`/jobs/${page.card.id}/wetwork`) : setPane(paneOf[condition] ?? "on");
  const onAct: Act = useMemo(() => (act, label) => keep({ kind: "strip", strip: act }, label), [keep]);
  const onPhoto = (item: string, photo: Blob, said: string) =>
    keep({ kind: "photo", photo: { data: "", item }, ...(said && { words: said }) }, "Picture saved", photo);
  const body: Record<Pane, () => React.ReactNode> = {
    isolate: () => (
      <Stack sx={{ gap: 3 }}>
        <ToPutRight {...{ page, catalogue }} onKeep={keep} onStart={() => setPane("start")} />
        <Isolate page={page} found={foundAt(catalogue, page)} onAct={onAct} onDone={() => setPane("off")} />
      </Stack>
    ),
    off: () => <OffList {...{ page, catalogue, onAct, onPhoto }} />,
    bench: () => <Workbench {...{ page, words, onAct }} />,
    on: () => (
      <Stack sx={{ gap: 3 }}>
        <OnList page={page} onAct={onAct} onDone={() => setPane("start")} />
        <PartsUsed job={page.card.id} hands={page.hands} engine={page.engine.id} onAct={onAct} />
      </Stack>
    ),
    start: () => <StartList page={page} onKeep={keep} onPane={goThere} />,
  };
  const beside: Pane = pane === "start" ? "on" : "start";
  return (
    <JobFrame page={page} catalogue={catalogue}>
      <Box sx={{ maxWidth: 1180, pb: 8 }}>
        <Stack direction="row" sx={{ alignItems: "center", mb: 1 }}>
          <Typography variant="h1" sx={{ mr: "auto" }}>
            Strip and rebuild
          </Typography>
          <Button component={Link} to={`/jobs/${page.card.id}/wetwork`}>
            Flush, descale, coolant
          </Button>
        </Stack>
        {page.closed && <Typography sx={{ mb: 1 }}>The job is closed: open it again to go on.</Typography>}
        <Box
          sx={{
            display: "grid",
            gap: 4,
            gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "minmax(0, 1.2fr) minmax(0, 1fr)" },
            alignItems: "start",
          }}
        >
          <Box sx={{ minWidth: 0 }}>
            <May right="work">{body[pane]()}</May>
          </Box>
          {wide && (
            <Box sx={{ bgcolor: "background.paper", borderRadius: 1, p: 2 }}>
              <May right="work">{body[beside]()}</May>
            </Box>
          )}
        </Box>
      </Box>
      <Foot page={page} chosen={pane} onChoose={setPane} />
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </JobFrame>
  );
}

/** What is still off stays in view, above the way from one step to the next. */
function Foot({ page, chosen, onChoose }: { page: JobPage; chosen: Pane; onChoose: (p: Pane) => void }) {
  return (
    <Box
      sx={{
        position: "fixed",
        insetInline: 0,
        bottom: { xs: footHeight, md: 0 },
        zIndex: 4,
        bgcolor: "background.paper",
        borderTop: 2,
        borderColor: "text.primary",
      }}
    >
      <Typography role="status" aria-label="Still off" sx={{ px: 1.5, pt: 0.75, fontWeight: 700, textAlign: "center" }}>
        {stillOff(page.hands)}
        {page.hands.ledger.open && `; ${page.hands.ledger.at_large.toFixed(2)} of a blade unaccounted for`}
      </Typography>
      <Stack component="nav" aria-label="Steps of the work" direction="row" sx={{ maxWidth: 700, mx: "auto" }}>
        {panes.map(([p, label]) => (
          <Button
            key={p}
            aria-pressed={chosen === p}
            onClick={() => {
              onChoose(p);
              window.scrollTo(0, 0);
            }}
            sx={{
              flex: 1,
              minWidth: 0,
              minHeight: 56,
              px: 0.25,
              color: "text.primary",
              borderRadius: 0,
              borderBottom: 4,
              borderColor: chosen === p ? "text.primary" : "transparent",
              fontWeight: chosen === p ? 750 : 500,
            }}
          >
            {label}
          </Button>
        ))}
      </Stack>
    </Box>
  );
}

interface IsolateProps {
  page: JobPage;
  onAct: Act;
  /** All that the task wants is shut. */
  onDone: () => void;
}

function Isolate(p: IsolateProps & { found: string[] }) {
  const { page, onAct, onDone } = p;
  const { begun } = page.hands;
  return (
    <Stack sx={{ gap: 3 }}>
      {begun.length === 0 && page.diagnosis.found.length === 0 && page.plan.length === 0 && (
        <Typography>
          Nothing is found yet. Look on under <Link to={`/jobs/${page.card.id}?pane=next`}>Find</Link>, or begin a task
          if you know what is to be done.
        </Typography>
      )}
      {begun.length === 0 && <BeginTask hands={page.hands} found={p.found} onAct={onAct} />}
      <ToBring tasks={begun} engine={page.engine.id} />
      <Isolations {...{ page, onAct, onDone }} />
    </Stack>
  );
}

/** What is to be at hand before anything is shut: tools, cloths, vessels, and the parts that are usually used up. */
function ToBring({ tasks, engine }: { tasks: Schemas["Task"][]; engine: string }) {
  const once = (list: (string[] | undefined)[]) => [...new Set(list.flatMap((x) => x ?? []))];
  const tools = once(tasks.map((t) => t.bring));
  const parts = once(tasks.map((t) => t.parts));
  if (tools.length + parts.length === 0) return null;
  return (
    <Box component="section" aria-label="What to bring">
      <Typography variant="h2">What to bring</Typography>
      <Box component="ul" sx={{ my: 0.5, pl: 2.5 }}>
        {tools.map((x) => (
          <li key={x}>{x}</li>
        ))}
        {parts.length > 0 && (
          <li>
            <strong>Parts:</strong> {parts.join(", ")}
          </li>
        )}
      </Box>
      {tasks.map((t) => (
        <Kits key={t.id} task={t} engine={engine} />
      ))}
    </Box>
  );
}

/** The kits in stock that fit the engine, and what each lacks of what a task takes new. */
function Kits({ task, engine }: { task: Schemas["Task"]; engine: string }) {
  const kits = useInventoryFor(engine, task.id).data?.lines.filter((l) => l.lacks) ?? [];
  return kits.map((l) => (
    <Typography key={l.id} sx={{ mt: 0.5 }}>
      <strong>
        {l.is.label}
        {l.have > 0 ? "" : " (none left)"}
      </strong>{" "}
      for {lower(task.label)}: {l.lacks?.length ? `lacks ${l.lacks.map(lower).join(", ")}` : "all that goes in new"}.
    </Typography>
  ));
}

function Isolations({ page, onAct, onDone }: IsolateProps) {
  const { isolated, begun } = page.hands;
  const here = isolationsOf(page.engine).map((i) => i.id as string);
  const wanted = new Set(begun.flatMap((t) => t.isolate ?? []).filter((id) => here.includes(id)));
  const shutNow = (id: string, label: string) => {
    onAct({ do: "isolate", item: id }, label);
    const left = [...wanted].filter((w) => w !== id && !isolated.some((x) => x.id === w));
    if (wanted.has(id) && left.length === 0) onDone();
  };
  return (
    <Box component="section" aria-label="Isolate">
      <Typography variant="h2">Before anything is opened</Typography>
      <Typography sx={{ color: "text.secondary", mb: 1 }}>
        Tag it at the key. It stands on every screen of this job until it is undone here.
      </Typography>
      {isolationsOf(page.engine).map((i) => {
        const shut = isolated.find((x) => x.id === i.id);
        return (
          <Stack
            key={i.id}
            direction="row"
            sx={{ alignItems: "center", gap: 1, borderTop: 1, borderColor: "divider", py: 1 }}
          >
            <Box sx={{ mr: "auto" }}>
              <Typography sx={{ fontWeight: 700 }}>{shut ? i.shut : i.label}</Typography>
              <Typography variant="body2" sx={{ color: "text.secondary" }}>
                {shut ? `${when(shut.at)}${shut.by && `, ${shut.by}`}` : wanted.has(i.id) ? "this task wants it" : ""}
              </Typography>
            </Box>
            <Button
              variant={shut || !wanted.has(i.id) ? "choice" : "contained"}
              onClick={() => (shut ? onAct({ do: "lift", item: i.id }, i.lift) : shutNow(i.id, i.shut))}
              sx={{ minWidth: 150 }}
            >
              {shut ? i.lift : i.shut}
            </Button>
          </Stack>
        );
      })}
    </Box>
  );
}
