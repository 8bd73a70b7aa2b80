import { Box, Button, Stack, Typography, useMediaQuery } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useCallback, useDeferredValue, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import type { Catalogue, JobPage } from "../../api/client";
import { withWaiting } from "../../api/pending";
import { useCatalogue, useJob, useOutbox, useYard } from "../../api/queries";
import { Apart } from "./Apart";
import { CloseJob } from "./CloseJob";
import { Complaint } from "./Complaint";
import { JobHead } from "./JobHead";
import { shownKeys, useJobKeys } from "./keys";
import { Loaded } from "../../ui/Loaded";
import { StoredCalculations } from "../../ui/StoredCalculations";
import { May } from "../../ui/May";
import { LogList } from "../../ui/LogList";
import { PlanPane } from "./PlanPane";
import { NotePad } from "./NotePad";
import { Banner } from "../../ui/job/JobBanner";
import { PauseJob } from "../../ui/job/Pause";
import { toDo } from "../../ui/job/steps";
import { unmet } from "../../ui/job/settle";
import { useWriter } from "../../ui/Shell";
import { WhoDialog } from "../../ui/WhoDialog";
import { asksFirst, lastOf } from "../../ui/undoing";
import { useSave } from "../../api/writes";
import { useNotice } from "../../ui/notices";
import { TakePicture } from "../../ui/TakePicture";
import { Rounds } from "./Rounds";
import { Water } from "../../ui/job/Water";
import { SuspectList } from "./SuspectList";
import { usePane } from "../../ui/pane";
import { useSettled } from "../../ui/settled";
import { useTaps } from "../../ui/taps";
import { Trace } from "./Trace";
import { wordsOf, type Words } from "../../ui/words";
import css from "./JobScreen.module.css";
import { belowLines } from "../../ui/stuck";

/** A tap that is answered this soon is shown with its answer alone, ms: nobody sees the difference. */
const answersWithin = 120;

/** A job: the water as its spine, the one next thing, the suspects; the complaint and the log one touch away. */
export function JobScreen() {
  const { id = "" } = useParams();
  const job = useJob(id);
  const catalogue = useCatalogue();
  const waiting = useSettled(useOutbox().waiting, answersWithin);
  return (
    <Loaded query={catalogue}>
      {(c) => (
        <Loaded query={job}>{(page) => <Job key={id} catalogue={c} page={withWaiting(page, waiting, c)} />}</Loaded>
      )}
    </Loaded>
  );
}

type Pane = "complaint" | "plan" | "next" | "water" | "suspects" | "log";

const begins: Record<"plan" | "complaint", [Pane, string]> = {
  plan: ["plan", "Plan"],
  complaint: ["complaint", "Complaint"],
};

/** A planned job begins with its plan, any other with what is seen. */
const panesOf = (begun: JobPage["kind"]["begins"]): [Pane, string][] => [
  begun === "plan" ? begins.plan : begins.complaint,
  ["next", "Next"],
  ["water", "Water"],
  ["suspects", "Suspects"],
  ["log", "Log"],
];

function Job({ catalogue, page }: { catalogue: Catalogue; page: JobPage }) {
  const theme = useTheme();
  const wide = useMediaQuery(theme.breakpoints.up("lg"));
  const words = wordsOf(catalogue);
  const later = useDeferredValue(page); // what stands around the middle: the next thing is drawn first
  const { panes, pane, setPane, setAt, station, setStation, choose, closing, setClosing } = useView(page);
  const { keep, takeBack, asking, setAsking } = useTaps(page.card.id);
  const sisters = useSisters(page);
  const possible = new Set(page.diagnosis.suspects.map((s) => s.fault));
  const centre: Pane = wide && (pane === "water" || pane === "suspects") ? "next" : pane;
  useKeysOf(page, panes[0]?.[0] ?? "complaint", setPane, takeBack);

  const suspects = (
    <SuspectList answer={later.diagnosis} engine={later.engine} findings={later.findings} {...{ catalogue, words }} />
  );
  const water = <Water catalogue={catalogue} page={later} chosen={station} onChoose={choose} />;
  const body: Record<Pane, () => React.ReactNode> = {
    complaint: () => (
      <Complaint
        {...{ catalogue, words, possible }}
        hasSister={sisters.length > 0}
        told={page.card.words}
        findings={page.findings}
        history={page.history}
        onKeep={keep}
        onDone={() => setPane("next")}
      />
    ),
    plan: () => (
      <PlanPane
        {...{ page, words }}
        onKeep={keep}
        onCheck={(check) => setAt({ pane: "next", check })}
        onClose={() => setClosing(true)}
      />
    ),
    next: () => (
      <Trace
        {...{ catalogue, words, page, possible, station }}
        onStation={setStation}
        onKeep={keep}
        onClose={() => setClosing(true)}
      />
    ),
    water: () => water,
    suspects: () => suspects,
    log: () => <LogPane {...{ page, words, keep, takeBack }} />,
  };
  return (
    <Box component="main" sx={{ pb: 2 }}>
      <Banner page={page} />
      <JobHead
        page={page}
        words={words}
        sisters={sisters}
        onClose={() => setClosing(true)}
        onReopen={() => keep({ kind: "reopened" }, "Job opened again")}
      />
      <Apart page={page} words={words} onKeep={keep} />
      {!wide && <PartsBar panes={panes} chosen={pane} onChoose={setPane} />}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "384px minmax(0, 1fr) 308px" },
          gap: { xs: 0, lg: 3 },
          px: { xs: 1.5, lg: 2.5 },
          pt: 2,
          alignItems: "start",
        }}
      >
        {wide && <Box sx={{ ...side, px: 1.5, pb: 1 }}>{water}</Box>}
        <Box sx={{ minWidth: 0 }}>
          {wide && <Tabs panes={panes} chosen={centre} onChoose={setPane} />}
          {centre === "water" || centre === "suspects" ? body[centre]() : <May right="work">{body[centre]()}</May>}
        </Box>
        {wide && <Box sx={{ ...side, p: 1.75 }}>{suspects}</Box>}
      </Box>
      <ByMistake page={later} />
      {closing && (
        <CloseJob
          job={page.card.id}
          planned={leftOfPlan(page)}
          answer={page.diagnosis}
          found={page.card.faults}
          possible={[...possible]}
          checks={catalogue.checks}
          standing={unmet(page.hands.conditions).filter((c) => c.stands)}
          says={page.hands.standing}
          words={words}
          onClose={() => setClosing(false)}
          onKeep={keep}
        />
      )}
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
      <Box sx={{ px: 2.5, pt: 3, display: { xs: "none", lg: "block" } }}>
        <Button component={Link} to={`/engines/${page.engine.id}`} sx={{ color: "text.secondary", ml: -2 }}>
          The engine's record
        </Button>
      </Box>
    </Box>
  );
}

type Taps = ReturnType<typeof useTaps>;

/** Notes, a pause, what was read and worked out, and everything that was noted. */
function LogPane({ page, words, keep, takeBack }: { page: JobPage; words: Words } & Pick<Taps, "keep" | "takeBack">) {
  return (
    <Stack sx={{ gap: 3 }}>
      {!page.closed && <NotePad job={page.card.id} onKeep={(w) => keep({ kind: "note", words: w }, "Note saved")} />}
      {!page.closed && (
        <Box>
          <TakePicture
            label="Take a picture"
            onTaken={(photo, said) =>
              keep({ kind: "photo", photo: { data: "" }, ...(said && { words: said }) }, "Picture saved", photo)
            }
          />
        </Box>
      )}
      <PauseJob page={page} onKeep={keep} />
      <Rounds page={page} words={words} />
      <StoredCalculations job={page.card.id} sums={page.sums} />
      <LogList log={page.log} words={words} onUndo={takeBack} />
    </Stack>
  );
}

/** The keys of a job at the desk; what is not one's own last tap is asked about in the log. */
function useKeysOf(page: JobPage, first: Pane, setPane: (p: Pane) => void, takeBack: (entry: string) => void) {
  const writer = useWriter();
  const last = lastOf(page.log);
  useJobKeys({
    next: () => setPane("next"),
    complaint: () => setPane(first),
    log: () => setPane("log"),
    undo: () => {
      if (last && asksFirst(last, page.log, writer)) setPane("log");
      else if (last) takeBack(last.entry_id);
    },
  });
}

/** The craft's other engines, each with its open jobs. */
function useSisters(page: JobPage) {
  const craft = useYard().data?.craft.find((c) => c.craft.id === page.craft.id);
  return (craft?.engines ?? []).filter((e) => e.engine.id !== page.engine.id);
}

/** A job in which nothing was noted can go; its opening stays on record as taken back. */
function ByMistake({ page }: { page: JobPage }) {
  const { undo } = useSave();
  const { kept, failed } = useNotice();
  const go = useNavigate();
  const opened = page.log[0];
  if (page.log.length !== 1 || !opened) return null;
  const remove = async () => {
    try {
      await undo(opened.entry_id);
      kept("The job is gone");
      await go("/");
    } catch (e) {
      failed(e);
    }
  };
  return (
    <Box sx={{ px: { xs: 1.5, lg: 2.5 }, pt: 2 }}>
      <Button onClick={() => void remove()} sx={{ px: 0 }}>
        Opened by mistake: take it away
      </Button>
    </Box>
  );
}

/** What of a planned job's plan is left; undefined where a cause is asked for. */
const leftOfPlan = (page: JobPage) => (page.kind.begins === "plan" ? toDo(page).map((p) => p.do) : undefined);

/** The panes beside the middle one stay in view while it scrolls. */
const side = {
  bgcolor: "background.paper",
  borderRadius: 1,
  position: "sticky",
  top: belowLines,
  maxHeight: `calc(100vh - 12px - ${belowLines})`,
  overflowY: "auto",
} as const;

function useView(page: JobPage) {
  const begun = page.kind.begins;
  const panes = panesOf(begun);
  const first = panes[0]?.[0] ?? "complaint";
  const [pane, setPane] = usePane(panes, page.findings.length === 0 && !page.closed ? first : "next");
  const [at, setAt] = useSearchParams();
  const [station, setStation] = useState<string | undefined>(at.get("station") ?? undefined);
  const [closing, setClosing] = useState(false);
  const choose = useCallback(
    (s: string) => {
      setStation((was) => (was === s ? undefined : s));
      setPane("next");
    },
    [setPane],
  );
  return { panes, pane, setPane, setAt, station, setStation, choose, closing, setClosing };
}

interface PanesProps {
  panes: [Pane, string][];
  chosen: Pane;
  onChoose: (p: Pane) => void;
}

function Tabs({ panes, chosen, onChoose }: PanesProps) {
  return (
    <Stack direction="row" sx={{ gap: 1, mb: 1.5, alignItems: "center" }}>
      {panes
        .filter(([p]) => p !== "water" && p !== "suspects")
        .map(([p, label]) => (
          <Button key={p} aria-pressed={chosen === p} onClick={() => onChoose(p)} sx={tab(chosen === p)}>
            {label}
            <Key>{shownKeys[p === "plan" ? "complaint" : p]}</Key>
          </Button>
        ))}
      <Typography variant="body2" sx={{ ml: "auto", color: "text.secondary" }}>
        Key U takes the last tap back
      </Typography>
    </Stack>
  );
}

function Key({ children }: { children: React.ReactNode }) {
  return (
    <Box
      component="kbd"
      aria-hidden="true"
      sx={{
        ml: 1,
        px: 0.6,
        border: 1,
        borderColor: "text.secondary",
        borderRadius: 0.5,
        font: "inherit",
        fontSize: "0.78rem",
        color: "text.secondary",
      }}
    >
      {children}
    </Box>
  );
}

const tab = (on: boolean) => ({
  color: "text.primary",
  borderBottom: 4,
  borderColor: on ? "text.primary" : "transparent",
  borderRadius: 0,
  fontWeight: on ? 750 : 500,
});

/** The parts of a job on a phone, under its steps; the places of the program lie at the foot. */
function PartsBar({ panes, chosen, onChoose }: PanesProps) {
  return (
    <nav aria-label="Parts of the job" className={css.parts}>
      {panes.map(([p, label]) => (
        <button
          key={p}
          type="button"
          aria-pressed={chosen === p}
          onClick={() => onChoose(p)}
          className={`text ${css.part}`}
        >
          {label}
        </button>
      ))}
    </nav>
  );
}
