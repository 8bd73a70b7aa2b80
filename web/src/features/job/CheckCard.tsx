import { Box, Stack } from "@mui/material";
import { lazy, Suspense, useEffect, useRef, useState, type ReactNode } from "react";
import { createPortal } from "react-dom";
import type { Catalogue, JobPage, NextCheck, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { AnswerDock } from "./AnswerDock";
import { AnswerList } from "./AnswerList";
import { useAnswers, type Answers } from "./answers";
import { ReadButton } from "./ReadButton";
import { openFindings } from "./outcome";
import { settling, touchOf } from "../../ui/job/settle";
import { Pictures, TakePicture } from "../../ui/TakePicture";
import { Soon } from "../../ui/Soon";
import { Stepper } from "../../ui/Stepper";
import { TestPressure } from "../../ui/TestPressure";
import { Attention } from "../../ui/Attention";
import { Drawn } from "../../ui/Drawn";
import { Outline } from "../../ui/Outline";
import { useDrawn, type DrawnOf } from "../../ui/drawings";
import { Where } from "../../ui/Where";
import { practice } from "../../api/practice";
import { LookButton, useLook, WhatIsSeen } from "../../ui/practice/Looking";
import { useAtCheck } from "../../ui/job/presence";
import { minutes, type Words } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";
import css from "./CheckCard.module.css";

const ReadOff = lazy(() => import("./ReadOff").then((m) => ({ default: m.ReadOff })));

interface Props {
  /** The job that it is made in. */
  page: JobPage;
  catalogue: Catalogue;
  words: Words;
  next: NextCheck;
  possible: Set<string>;
  heading: ReactNode;
  /** Where the answers stand on a phone; undefined at a desk. */
  dock?: HTMLElement | null;
  onKeep: (entry: JobEntry, label: string, photo?: Blob) => void;
}

const names = (others: Schemas["Other"][]) => others.map((o) => o.name).join(", ");

/** One check: why, how long, what must be shut first, what can hurt, how, and what was found. */
export function CheckCard({ page, catalogue, words, next, possible, heading, dock, onKeep }: Props) {
  const { engine, photos } = page;
  const [job, closed] = [page.card.id, page.closed !== undefined];
  const also = useAtCheck(job, next.check);
  const drawn = useDrawn(engine.circuit);
  const check = catalogue.checks.find((k) => k.id === next.check);
  if (!check) return null;
  return (
    <article aria-label={check.label} className={css.card}>
      <div className={css.head}>
        {heading}
        <div className={css.top}>
          <div className={css.name}>
            <h2>{check.label}</h2>
            <p>{next.reason}</p>
          </div>
          <div className={css.time}>
            <p className={css.minutes}>{minutes(next.minutes + next.access_minutes + (next.state_minutes ?? 0))}</p>
            {timedHere(page, check) && <p>as it took here</p>}
            {/* at once in sight on a phone, where the answers cover what lies below */}
            {drawn.check(check.id)?.plate && (
              <div className={css.drawn}>
                <Drawn key={check.id} of={drawn.check(check.id)} width={104} small />
              </div>
            )}
          </div>
        </div>
      </div>
      <div className={css.body}>
        {/* what must be so before, and what can hurt, stands as soon as the answers do */}
        {also.length > 0 && <Attention>{`${names(also)} has this check open too: agree who opens what.`}</Attention>}
        <First {...{ catalogue, check, next, words, closed, onKeep }} />
        {next.watch && <p className={css.strong}>{next.watch}</p>}
        <Cautions catalogue={catalogue} ids={next.cautions ?? check.cautions} />
        <Soon key={`below ${check.id}`}>
          <How {...{ photos, check, drawn }} />
          <TestPressure check={check} />
          {!check.asks && <Where {...{ catalogue, engine }} station={next.station} />}
          {!closed && !check.asks && (
            <Box>
              <TakePicture
                label="Take a picture"
                onTaken={(photo, said) =>
                  onKeep(
                    {
                      kind: "photo",
                      photo: { data: "", item: `check/${check.id}` },
                      words: said ? `${check.label}: ${said}` : check.label,
                    },
                    "Picture saved",
                    photo,
                  )
                }
              />
            </Box>
          )}
        </Soon>
        {!closed && (
          <Outcome
            key={check.id}
            {...{ job, page, catalogue, possible, check, words, next, drawn, dock, onKeep }}
            made={page.checks.filter((k) => k.check === check.id).length}
            open={openFindings(catalogue, check, possible, page.findings)}
          />
        )}
      </div>
    </article>
  );
}

interface HowProps {
  photos: JobPage["photos"];
  check: Schemas["Check"];
  drawn: DrawnOf;
}

/** How it is done, beside a drawing of it and the pictures that were taken there. */
function How({ photos, check, drawn }: HowProps) {
  const picture = drawn.check(check.id);
  return (
    <Stack direction="row" sx={{ gap: 1.5, alignItems: "flex-start" }}>
      <Box component="ol" sx={{ m: 0, mr: "auto", pl: 2.5, minWidth: 0, "& li": { mb: 0.5 } }}>
        {check.how.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </Box>
      {(picture?.plate || !check.asks) && (
        <Stack sx={{ flex: "none", width: { xs: 132, sm: 184 }, gap: 1 }}>
          <Drawn of={picture} label={drawn.says(picture)} width={176} />
          <Pictures page={{ photos }} about={`check/${check.id}`} />
        </Stack>
      )}
    </Stack>
  );
}

interface FirstProps {
  catalogue: Catalogue;
  check: Schemas["Check"];
  next: NextCheck;
  words: Words;
  closed: boolean;
  onKeep: Props["onKeep"];
}

/** Whether earlier jobs on this engine tell what the check, or what is opened for it, takes. */
const timedHere = ({ timed_here }: JobPage, check: Schemas["Check"]) =>
  [check.id, check.access ?? ""].some((id) => (timed_here?.[id] ?? 0) > 0);

/** What must be so before the check: what stands in the way or is not known is one touch from being said. */
function First(p: FirstProps) {
  const steps = p.next.before ?? [];
  const asked = new Set(steps.map((s) => s.id));
  const needs = p.catalogue.needs.filter((n) => p.check.needs.includes(n.id) && !asked.has(n.id)).map((n) => n.label);
  if (p.next.access_minutes > 0)
    needs.push(`${p.words.access(p.check.access ?? "")}: ${minutes(p.next.access_minutes)} of the time`);
  const running = p.check.engine === "running" ? "Engine running." : "";
  if (needs.length + steps.length === 0) return running ? <p className={css.strong}>{running}</p> : null;
  return (
    <div className={css.first}>
      <h3>Before you begin</h3>
      {needs.length > 0 && (
        <ul>
          {needs.map((n) => (
            <li key={n}>{n}</li>
          ))}
        </ul>
      )}
      {steps.map((s) => (
        <div key={s.id} className={css.step}>
          <p>
            {s.label}
            {s.minutes > 1 && (
              <span>
                {s.known ? `, ${minutes(s.minutes)} of the time` : `, ${minutes(s.minutes)} if it is not so yet`}
              </span>
            )}
          </p>
          {!p.closed && (
            <ChoiceButton onClick={() => p.onKeep(settling(s), touchOf(s))} aria-label={`${touchOf(s)}: ${s.label}`}>
              {touchOf(s)}
            </ChoiceButton>
          )}
        </div>
      ))}
      {running && <p className={css.then}>Then: engine running</p>}
    </div>
  );
}

function Cautions({ catalogue, ids }: { catalogue: Catalogue; ids: string[] }) {
  const list = catalogue.cautions.filter((k) => ids.includes(k.id));
  if (list.length === 0) return null;
  return (
    <div className={css.cautions}>
      {list.map((k) => (
        <p key={k.id}>
          <strong>{k.label}.</strong> {k.text}
        </p>
      ))}
    </div>
  );
}

interface OutcomeProps {
  job: string;
  page: JobPage;
  /** How often this check was made. */
  made: number;
  catalogue: Catalogue;
  possible: Set<string>;
  check: Schemas["Check"];
  words: Words;
  next: NextCheck;
  open: string[];
  drawn: DrawnOf;
  /** Where the answers stand on a phone: within the thumb's reach. Nothing: in the card. */
  dock?: HTMLElement | null;
  onKeep: Props["onKeep"];
}

/** What was found: told by figures, seen in a practice, or answered by a tap for each thing. */
function Outcome(p: OutcomeProps) {
  const answers = useAnswers(p);
  const [reading, setReading] = useState(false);
  const took = <Stepper label="It took" unit="min" value={answers.took} onChange={answers.setTook} />;
  if (practice) return <InPractice {...{ ...p, answers, took }} />;
  if (reading)
    return (
      <Suspense fallback={<Outline />}>
        <ReadOff
          {...{ page: p.page, catalogue: p.catalogue, check: p.check, took, dock: p.dock, onKeep: p.onKeep }}
          minutes={answers.took}
          onLeave={() => setReading(false)}
        />
      </Suspense>
    );
  // whoever has an instrument types what it reads, who has none says yes or no
  const onRead = p.check.reads.length > 0 ? () => setReading(true) : undefined;
  return <Judged {...{ answers, took, onRead }} dock={p.dock} />;
}

interface JudgedProps {
  answers: Answers;
  took: ReactNode;
  onRead?: () => void;
  dock?: HTMLElement | null;
}

/** By judgement: one tap where the check settles one thing, else a tap for each thing seen and one to keep. */
function Judged({ answers, took, onRead, dock }: JudgedProps) {
  const [listed, setListed] = useState(false);
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (listed) list.current?.scrollIntoView({ block: "start" }); // the answers come under the thumb
  }, [listed]);
  if (dock === undefined)
    return (
      <>
        {onRead && <ReadButton onRead={onRead} />}
        <AnswerList {...answers}>{took}</AnswerList>
      </>
    );
  return (
    <>
      <Box ref={list}>{listed ? <AnswerList {...answers}>{took}</AnswerList> : <Soon>{took}</Soon>}</Box>
      {dock && createPortal(<AnswerDock {...answers} {...{ listed, onRead }} onList={setListed} />, dock)}
    </>
  );
}

/** In a practice the look comes first, then what is seen, which is judged on a phone by a tap more. */
function InPractice(p: OutcomeProps & { answers: Answers; took: ReactNode }) {
  const [judging, setJudging] = useState(false);
  const look = useLook(p.check.id, p.made);
  if (!look) {
    const button = <LookButton check={p.check} takes={p.next.minutes + p.next.access_minutes} />;
    return p.dock ? createPortal(button, p.dock) : button;
  }
  const seen = <WhatIsSeen {...p} look={look} onJudge={p.dock === undefined ? undefined : () => setJudging(true)} />;
  if (p.dock && !judging) return createPortal(seen, p.dock);
  return (
    <>
      {p.dock === undefined && seen}
      <Judged answers={p.answers} took={p.took} dock={p.dock} />
    </>
  );
}
