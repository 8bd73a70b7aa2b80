import { Box, Button, ButtonBase, Stack, Typography, useMediaQuery } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useDeferredValue, useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { Catalogue, JobPage, NextCheck } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { AlsoSeen } from "./AlsoSeen";
import { CheckCard } from "./CheckCard";
import { FoundBanner } from "./FoundBanner";
import { Measure } from "./Measure";
import { Proved } from "./Proved";
import { RuledOut } from "./RuledOut";
import { isProved } from "../../ui/job/steps";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";
import css from "./Trace.module.css";
import { footHeight } from "../../ui/Shell";
import { percent } from "../../ui/stations";
import { lower, minutes, strategyWords, type Words } from "../../ui/words";

interface Props {
  catalogue: Catalogue;
  words: Words;
  page: JobPage;
  possible: Set<string>;
  station?: string;
  onStation: (s: string | undefined) => void;
  onKeep: (entry: JobEntry, label: string, photo?: Blob) => void;
  onClose: () => void;
  /** Where the answers stand on a phone. */
  dock?: HTMLElement | null;
}

const others = 5;

/** What now: the next check by the chosen order of search, or the checks of a station that was touched. */
export function Trace(p: Props) {
  const { words, page, station } = p;
  const later = useDeferredValue(page); // what lies below the check in hand is drawn after it
  const [on, setOn] = useState(false);
  const phone = useMediaQuery(useTheme().breakpoints.down("md"));
  const [dock, setDock] = useState<HTMLElement | null>(null);
  const closed = page.closed !== undefined;
  const [, setAt] = useSearchParams();
  const cured = !station && !on && isCured(page);
  return (
    <Stack sx={{ gap: 2 }}>
      <FoundBanner
        {...p}
        onCheck={(check) => {
          p.onStation(undefined); // it may be made anywhere
          setAt({ pane: "next", check });
        }}
      />
      {!closed && <Conflicts page={page} words={words} />}
      {station ? (
        <Stack direction="row" sx={{ alignItems: "center", gap: 1 }}>
          <StationDrawn page={page} station={station} />
          <Typography variant="h2" sx={{ mr: "auto" }}>
            {words.station(station)}
          </Typography>
          <Button onClick={() => p.onStation(undefined)}>Back to what is next</Button>
        </Stack>
      ) : (
        <AlsoSeen page={later} />
      )}
      {cured ? (
        <Proved page={page} onClose={p.onClose} onLookOn={() => setOn(true)} />
      ) : (
        <Checks {...p} later={later} {...(phone && { dock })} />
      )}
      {!closed && !station && <Measure job={page.card.id} engine={page.engine.id} />}
      {!closed && !station && <RuledOut list={later.diagnosis.ruled_out} words={words} />}
      {!closed && (
        <Button onClick={p.onClose} sx={{ display: { sm: "none" }, color: "text.primary" }}>
          Close the job
        </Button>
      )}
      {phone && <div ref={setDock} className={css.docked} style={{ bottom: footHeight }} />}
      {phone && <div className={css.room} />}
    </Stack>
  );
}

function StationDrawn({ page, station }: { page: JobPage; station: string }) {
  const drawn = useDrawn(page.engine.circuit);
  const of = drawn.station(station);
  return <Drawn of={of} label={drawn.says(of)} width={120} />;
}

/** The last run was signed as cured, nothing was found since, and the job is open still. */
const isCured = (page: JobPage) => !page.closed && isProved(page) && page.diagnosis.found.length === 0;

/** The checks that are offered here, and the one in hand: that which was picked, or the first. */
function listOf({ diagnosis }: JobPage, station: string | undefined, picked: string | undefined) {
  const list = diagnosis.next_checks.filter((n) => !station || n.station === station);
  return { list, current: list.find((n) => n.check === picked) ?? list[0] };
}

/** The check in hand, what stands open, and the others worth a look. */
function Checks(p: Props & { later: JobPage }) {
  const { page, later, words, station } = p;
  const [at, setAt] = useSearchParams();
  const picked = at.get("check") ?? undefined;
  const ranked = page.diagnosis.next_checks;
  const { current } = listOf(page, station, picked);
  // beside something found the next look is one of two ways on: it does not take the foot of the screen
  const inHand = station !== undefined || picked !== undefined || page.diagnosis.found.length === 0;
  // what was picked beside something found lies under it
  const top = useTop(current?.check, picked !== undefined && page.diagnosis.found.length > 0, p.dock);
  return (
    <>
      <div ref={top} className={css.top} />
      <Current {...p} dock={inHand ? p.dock : undefined} ranked={ranked} current={current} />
      {page.state.open.length > 0 && !page.closed && <OpenNow {...p} />}
      <Others {...{ words, station, picked }} page={later} onPick={(check) => setAt({ pane: "next", check })} />
    </>
  );
}

/** How much of the page from a place on stands above the answers while nothing is scrolled, in px. */
const roomOver = (dock: HTMLElement, at: HTMLElement) =>
  dock.getBoundingClientRect().top - at.getBoundingClientRect().top - window.scrollY;

/** So much of a check is seen above its answers, in px: its name, its drawing and what it may find. */
const seen = 200;

/**
 * After an answer the next thing begins at the top of the screen; below what else stands there, or where a small screen
 * leaves too little of it above its answers, at its own top.
 */
function useTop(check: string | undefined, below: boolean, dock: HTMLElement | null | undefined) {
  const before = useRef(check);
  const top = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (before.current === check) return;
    before.current = check;
    requestAnimationFrame(() => {
      // with the frame's own layout: at once, the page would be laid out twice for a tap
      const at = top.current;
      if (at && (below || (dock && roomOver(dock, at) < seen))) at.scrollIntoView({ block: "start" });
      else window.scrollTo({ top: 0 });
    });
  }, [check, below, dock]);
  return top;
}

/** The check in hand, or why there is none. */
function Current(p: Props & { later: JobPage; ranked: NextCheck[]; current: NextCheck | undefined }) {
  const { page, words, station, ranked, current } = p;
  if (!current)
    return <Typography>{station ? "Nothing is left to look at here." : nothingLeft(page, words)}</Typography>;
  return <CheckCard {...p} next={current} heading={<Heading {...p} first={current === ranked[0]} next={current} />} />;
}

/** Nothing is left to look at: the likeliest is put right, and the proof decides; or the job ends so. */
function nothingLeft({ diagnosis }: JobPage, words: Words): string {
  const [likeliest] = diagnosis.suspects;
  if (diagnosis.advice !== "put-right-the-likeliest-and-prove" || !likeliest)
    return "Every check that this engine allows is done. Close the job, or take a check back in the log.";
  return (
    `Everything was looked at, some of it twice, and nothing was seen. ${words.fault(likeliest.fault)} is ` +
    `${percent(likeliest.probability)} likely: put it right, and let the run decide.`
  );
}

/** Two findings that cannot well be so at once: one of them wants a second look. */
function Conflicts({ page, words }: { page: JobPage; words: Words }) {
  const { water } = useTheme();
  const list = page.diagnosis.conflicts.slice(0, 2);
  if (list.length === 0) return null;
  return (
    <Box role="status" aria-label="Contradiction" sx={{ borderLeft: 6, borderColor: water.suspect, pl: 1.5 }}>
      {list.map((c) => (
        <Typography key={c.a + c.b}>
          <strong>These two do not go together:</strong> {lower(words.finding(c.a))}, and {lower(words.finding(c.b))}.
          Look at one of them again: both at once are {Math.round(c.times)} times rarer than chance.
        </Typography>
      ))}
    </Box>
  );
}

interface HeadingProps extends Props {
  later: JobPage;
  first: boolean;
  next: NextCheck;
}

function Heading({ later, catalogue, words, onKeep, first, next }: HeadingProps) {
  const asks = catalogue.checks.find((k) => k.id === next.check)?.asks;
  return (
    <div className={css.heading}>
      <p>
        {first ? "Next" : "Instead"}: {asks ? "a question" : words.station(next.station)}
      </p>
      {!later.closed && <Strategies page={later} onKeep={onKeep} />}
    </div>
  );
}

/** The orders of search, each with the minutes that it should take. */
function Strategies({ page, onKeep }: Pick<Props, "page" | "onKeep">) {
  const { water } = useTheme();
  const chosen = page.strategy;
  return (
    <Stack
      direction="row"
      role="group"
      aria-label="Order of search, with the minutes it should take"
      sx={{ ml: -0.75 }}
    >
      {(Object.keys(strategyWords) as (keyof typeof strategyWords)[]).map((s) => (
        <Button
          key={s}
          aria-pressed={chosen === s}
          onClick={() =>
            chosen !== s && onKeep({ kind: "strategy", strategy: s }, `Order of search: ${strategyWords[s]}`)
          }
          sx={{
            color: water.nextInk,
            px: 0.75,
            fontSize: "0.88rem",
            lineHeight: 1.5,
            whiteSpace: "nowrap",
            fontWeight: chosen === s ? 750 : 400,
            textDecoration: chosen === s ? "underline" : "none",
            textUnderlineOffset: 5,
            textDecorationThickness: 3,
          }}
        >
          <span>
            {strategyWords[s]} <br />
            {expected(page, s)}
          </span>
        </Button>
      ))}
    </Stack>
  );
}

/** What a strategy is expected to take from here. */
function expected(page: JobPage, strategy: string) {
  const outlook = page.diagnosis.outlooks.find((o) => o.strategy === strategy);
  return outlook && page.diagnosis.next_checks.length > 0 ? minutes(outlook.minutes) : "";
}

function OpenNow({ page, onKeep }: Props) {
  return (
    <Box>
      <Typography variant="h3">Open now: what lies behind costs its own minutes only</Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 1, mt: 0.5 }}>
        {page.state.open.map((o) => (
          <Button
            key={o.id}
            variant="outlined"
            sx={{ borderColor: "text.primary", color: "text.primary" }}
            onClick={() => onKeep({ kind: "access", access: o.id, open: false }, `${o.label}: closed up again`)}
          >
            {o.label}. Closed up again?
          </Button>
        ))}
      </Stack>
    </Box>
  );
}

interface OthersProps {
  /** As it was drawn last: what else there is comes after the check in hand. */
  page: JobPage;
  words: Words;
  station: string | undefined;
  picked: string | undefined;
  onPick: (check: string) => void;
}

/** What else is worth a look, each with its minutes. */
function Others({ page, words, station, picked, onPick }: OthersProps) {
  const { list, current } = listOf(page, station, picked);
  const rest = list.filter((n) => n.check !== current?.check).slice(0, others);
  const title = station ? "Also here" : "Or else";
  if (rest.length === 0) return null;
  return (
    <Box component="section" aria-label={title}>
      <Typography variant="h3" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      {rest.map((n) => (
        <ButtonBase
          key={n.check}
          onClick={() => onPick(n.check)}
          sx={{
            width: "100%",
            minHeight: 56,
            borderTop: 1,
            borderColor: "divider",
            gap: 1.5,
            textAlign: "left",
            py: 0.75,
            alignItems: "baseline",
          }}
        >
          <Typography sx={{ width: 58, flex: "none", fontWeight: 750, textAlign: "right" }}>
            {minutes(n.minutes + n.access_minutes + (n.state_minutes ?? 0))}
          </Typography>
          <Box sx={{ flex: 1 }}>
            <Typography sx={{ fontWeight: 650, lineHeight: 1.2 }}>{words.check(n.check)}</Typography>
            <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.3 }}>
              {n.reason}
            </Typography>
          </Box>
        </ButtonBase>
      ))}
    </Box>
  );
}
