import { Box, Button, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState, useSyncExternalStore } from "react";
import { useNavigate } from "react-router";
import type { JobPage, Schemas } from "../../api/client";
import { newID } from "../../api/ids";
import { link } from "../../api/link";
import { useCatalogue, useMay, useOutbox } from "../../api/queries";
import type { JobEntry } from "../../api/writes";
import { Cautions } from "../Cautions";
import { Why } from "../Why";
import { PauseJob } from "./Pause";
import { useUnkeptOf } from "../unkept";
import { PutRight } from "./PutRight";
import { when, wordsOf } from "../words";
import { usualHow } from "./steps";
import { mayHaveRun, settling, touchOf, unmet } from "./settle";
import { ChoiceButton } from "../ChoiceButton";

type Condition = Schemas["Condition"];
export type Keep = (entry: JobEntry, label: string) => void;

interface Props {
  page: JobPage;
  onKeep: Keep;
  onPane: (condition: string) => void;
}

/** All that must be so before the engine is started, each a touch from being settled, or passed over in writing. */
export function StartList({ page, onKeep, onPane }: Props) {
  const { hands, state } = page;
  const { water } = useTheme();
  const go = useNavigate();
  const last = hands.starts[hands.starts.length - 1];
  const crank = state.may_crank.reasons[0];
  // the start is watched by the priming clock of a proving run; the list signs it off
  const start = () => {
    if (!page.proving.runs.some((r) => r.open)) {
      const where: Schemas["RunWhere"] = state.where.value === "ashore" ? "hose-inlet" : "afloat";
      const begin = { do: "begin" as const, run: newID(), where, how: usualHow(page) };
      onKeep({ kind: "proving", proving: begin }, "Proving run begun");
    }
    onKeep({ kind: "strip", strip: { do: "start" } }, "Started");
    void go(`/jobs/${page.card.id}/proving`);
  };
  return (
    <Stack component="section" aria-label="Before the start" sx={{ gap: 1.5 }}>
      <Verdict page={page} />
      {crank && (
        <Typography role="alert" sx={{ borderLeft: 6, borderColor: water.found, pl: 1.5, fontWeight: 700 }}>
          Do not even crank it: {crank.why}.
        </Typography>
      )}
      <Where page={page} onKeep={onKeep} />
      {last && (
        <Typography sx={{ color: "text.secondary" }}>
          Last started {when(last.at)}, {last.by}. Each start is looked at afresh.
        </Typography>
      )}
      <Box>
        {hands.conditions.map((c) => (
          <Line key={c.id} {...{ page, onKeep, onPane }} condition={c} />
        ))}
      </Box>
      <Unkept job={page.card.id} />
      <NotPutRight page={page} onKeep={onKeep} />
      {!hands.ready && (
        <Button
          href={`/api/v1/engines/${page.engine.id}/do-not-start.pdf`}
          download
          sx={{ alignSelf: "flex-start", px: 0 }}
        >
          DO NOT START sheet, to hang at the key
        </Button>
      )}
      {!hands.ready && <PauseJob page={page} onKeep={onKeep} />}
      <Cautions ids={["dry-running", "turning-parts", "hot-exhaust"]} />
      <Button variant="contained" disabled={!hands.ready} onClick={start} sx={{ minHeight: 64, fontSize: "1.15rem" }}>
        Engine started
      </Button>
    </Stack>
  );
}

const places = [
  ["afloat", "Afloat"],
  ["alongside", "Alongside"],
  ["under-way", "Under way"],
  ["ashore", "Ashore"],
] as const;

/** Where the craft lies, for all its engines: ashore there is no sea to come in, and none to cool with. */
function Where({ page, onKeep }: Pick<Props, "page" | "onKeep">) {
  const { value, why } = page.state.where;
  return (
    <Box>
      <Typography variant="body2" sx={{ mb: 0.5 }}>
        Where does it lie? Ashore no sea can come in, and none cools.
      </Typography>
      <Box
        role="group"
        aria-label="Where it lies"
        // the narrow column of a desk has room for two beside each other
        sx={{
          display: "grid",
          gap: 0.75,
          gridTemplateColumns: { xs: "repeat(4, 1fr)", md: "1fr 1fr" },
          maxWidth: 480,
        }}
      >
        {places.map(([item, label]) => (
          <ChoiceButton
            key={item}
            aria-pressed={value === item && !why}
            data-on={value === item && !why}
            sx={{ px: 0.5, minWidth: 0, whiteSpace: "nowrap" }}
            onClick={() => onKeep({ kind: "strip", strip: { do: "where", item } }, label)}
          >
            {label}
          </ChoiceButton>
        ))}
      </Box>
      {value && why && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          {places.find(([item]) => item === value)?.[1]}: {why}
        </Typography>
      )}
    </Box>
  );
}

/** Answers that were tapped or typed, here or on another device, and never saved: each is to be saved or dropped. */
function Unkept({ job }: { job: string }) {
  const { list, drop } = useUnkeptOf(job);
  if (list.length === 0) return null;
  return (
    <Box component="section" aria-label="Not saved yet">
      <Typography variant="h3" component="h2">
        Tapped or typed, and not saved
      </Typography>
      {list.map(({ what, by }) => (
        <Stack key={what} direction="row" sx={{ alignItems: "center", gap: 1 }}>
          <Typography sx={{ mr: "auto" }}>
            {what}
            {by && `, on another device, ${by}`}
          </Typography>
          <ChoiceButton aria-label={`Drop it: ${what}`} onClick={() => drop(what)}>
            Drop it
          </ChoiceButton>
        </Stack>
      ))}
    </Box>
  );
}

/**
 * Whether it may be started. Ready is said by the yard's program alone: without a link, until all came together after
 * it, or while a tap of this device waits, nobody knows what else was opened since.
 */
function Verdict({ page }: { page: JobPage }) {
  const { water } = useTheme();
  const behind = useSyncExternalStore(link.subscribe, link.behind);
  const { waiting, trouble } = useOutbox();
  const of = [page.card.id, page.engine.id];
  const waits = trouble !== "none" && waiting.some((l) => of.some((id) => l.path.includes(id)));
  const open = unmet(page.hands.conditions).length;
  const sure = page.hands.ready && !behind && !waits;
  return (
    <Stack direction="row" sx={{ alignItems: "center", gap: 1.5 }}>
      <svg width="30" height="30" aria-hidden="true" style={{ flex: "none" }}>
        {sure ? (
          <circle cx="15" cy="15" r="13" fill={water.clear} />
        ) : (
          <path d="M 15 1 l 14 14 l -14 14 l -14 -14 z" fill={water.found} />
        )}
      </svg>
      <Typography role="status" sx={{ fontSize: "1.5rem", fontWeight: 750, lineHeight: 1.2 }}>
        {!page.hands.ready && `Not ready: ${open} ${open === 1 ? "thing" : "things"} open`}
        {sure && "Ready to start"}
        {page.hands.ready && !sure && "Not known to be ready: look at it all yourself before a start"}
      </Typography>
    </Stack>
  );
}

/** What was found and nobody said to be put right: it bars no start, but the run then proves nothing of it. */
function NotPutRight({ page, onKeep }: Pick<Props, "page" | "onKeep">) {
  const catalogue = useCatalogue().data;
  const left = page.diagnosis.found.filter((f) => !page.repaired.some((r) => r.fault === f));
  if (left.length === 0 || !catalogue) return null;
  const words = wordsOf(catalogue);
  return (
    <Box component="section" aria-label="Found, and not said to be put right">
      <Typography variant="h3" component="h2">
        Found, and not said to be put right
      </Typography>
      {left.map((f) => (
        <Stack key={f} direction="row" sx={{ alignItems: "center", gap: 1, flexWrap: "wrap" }}>
          <Typography sx={{ mr: "auto" }}>{words.fault(f)}</Typography>
          <PutRight {...{ page, words, onKeep }} fault={f} />
        </Stack>
      ))}
    </Box>
  );
}

/** Where there is more to a condition than one touch, the pane that settles it. */
const settledIn = (id: string) => /^(seals-matched|tightened|pieces|count:|acid:)/.test(id);

function Line({ page, condition: c, onKeep, onPane }: Props & { condition: Condition }) {
  const [asking, setAsking] = useState<"override" | "settle">();
  const passed = c.ok || c.overridden !== "";
  const touch = touchOf(c);
  const said = (w: string) => {
    if (asking === "settle") onKeep(settling(c, w), c.label);
    else
      onKeep(
        { kind: "strip", strip: { do: "override", item: c.id, words: w, against: c.why } },
        `Passed over: ${c.label}`,
      );
    setAsking(undefined);
  };
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 1.25, rowGap: 0.5, flexWrap: "wrap" }}>
        <Stack direction="row" sx={{ alignItems: "center", gap: 1.25, flex: "1 1 145px" }}>
          <State condition={c} />
        </Stack>
        <Stack direction="row" sx={{ alignItems: "center", gap: 1.25, ml: "auto" }}>
          {!passed && c.settle && (
            <Button
              variant="contained"
              onClick={() => (c.asks_words ? setAsking("settle") : onKeep(settling(c), c.label))}
              aria-label={`${touch}: ${c.label}`}
              sx={{ lineHeight: 1.2, maxWidth: 150, flex: "none" }}
            >
              {touch}
            </Button>
          )}
          {!passed && settledIn(c.id) && (
            <Button
              onClick={() => onPane(c.id)}
              aria-label={`Go there: ${c.label}`}
              sx={{ whiteSpace: "nowrap", flex: "none" }}
            >
              Go there
            </Button>
          )}
          {!passed && <PassOver label={c.label} onAsk={() => setAsking(asking ? undefined : "override")} />}
        </Stack>
      </Stack>
      {!passed && c.id === "seacock" && mayHaveRun(page) && (
        <ChoiceButton
          onClick={() => onKeep({ kind: "strip", strip: { do: "ran" } }, "Ran just now, nothing opened since")}
          sx={{ mt: 0.75, ml: 4.5 }}
        >
          Ran just now, nothing opened since
        </ChoiceButton>
      )}
      {asking && (
        <Why
          job={page.card.id}
          about={`${asking === "settle" ? "How it is settled" : "Why it is passed over"}: ${c.label}`}
          label={asking === "settle" ? "What the cause was, and who cleared it" : "Started all the same, because"}
          touch={asking === "settle" ? touch : "Pass over"}
          onSay={said}
        />
      )}
    </Box>
  );
}

/** What stands in the way is passed over by whoever may sign. */
function PassOver({ label, onAsk }: { label: string; onAsk: () => void }) {
  if (!useMay("sign")) return null;
  return (
    <Button onClick={onAsk} aria-label={`Pass over: ${label}`} sx={{ minWidth: 48, px: 0.5 }}>
      …
    </Button>
  );
}

/** A tick, an empty box, or a filled one where it was passed over; and what stands in the way. */
function State({ condition: c }: { condition: Condition }) {
  const { water, palette } = useTheme();
  return (
    <>
      <svg width="26" height="26" aria-hidden="true" style={{ flex: "none" }}>
        {c.ok ? (
          <path d="M 4 14 l 6 6 l 12 -14" fill="none" stroke={water.clear} strokeWidth="5" />
        ) : (
          <rect
            x="3"
            y="3"
            width="20"
            height="20"
            fill={c.overridden ? palette.text.secondary : "none"}
            stroke={palette.text.primary}
            strokeWidth="2.5"
          />
        )}
      </svg>
      <Box sx={{ mr: "auto", minWidth: 0 }}>
        <Typography sx={{ fontWeight: c.ok || c.overridden ? 500 : 700, lineHeight: 1.25 }}>{c.label}</Typography>
        {!c.ok && c.why !== "not looked at yet" && (
          <Typography variant="body2" sx={{ color: c.overridden ? "text.secondary" : "error.main", lineHeight: 1.3 }}>
            {c.why}
          </Typography>
        )}
        {c.overridden && <Typography variant="body2">Passed over: {c.overridden}</Typography>}
      </Box>
    </>
  );
}
