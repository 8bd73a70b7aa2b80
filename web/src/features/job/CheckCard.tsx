import { Box, Button, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useCallback, type ReactNode } from "react";
import { Link } from "react-router";
import type { Catalogue, NextCheck, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { GradeRow } from "./GradeRow";
import { lookAnswers, MarkRow } from "./MarkRow";
import {
  allClear,
  asked,
  graded,
  gradeOf,
  keepLabel,
  marked,
  manyFrom,
  meaning,
  openFindings,
  statedOf,
  type Mark,
  type Marks,
} from "./outcome";
import { settling, touchOf } from "../../ui/job/settle";
import { Stepper } from "../../ui/Stepper";
import { useUnkept } from "../../ui/unkept";
import { minutes, type Words } from "../../ui/words";

interface Props {
  job: string;
  catalogue: Catalogue;
  words: Words;
  next: NextCheck;
  possible: Set<string>;
  closed: boolean;
  heading: ReactNode;
  onKeep: (entry: JobEntry, label: string) => void;
}

/** One check: why, how long, what must be shut first, what can hurt, how, and what was found. */
export function CheckCard({ job, catalogue, words, next, possible, closed, heading, onKeep }: Props) {
  const { water } = useTheme();
  const check = catalogue.checks.find((k) => k.id === next.check);
  if (!check) return null;
  return (
    <Box
      component="article"
      aria-label={check.label}
      sx={{ border: 2, borderColor: "text.primary", borderRadius: 1, bgcolor: "background.paper", overflow: "hidden" }}
    >
      <Box sx={{ bgcolor: water.next, color: water.nextInk, px: 2, pt: 1, pb: 1.5 }}>
        {heading}
        <Stack direction="row" sx={{ gap: 2, alignItems: "flex-end", justifyContent: "space-between" }}>
          <Typography variant="h1" component="h2">
            {check.label}
          </Typography>
          <Typography sx={{ fontWeight: 750, fontSize: "1.6rem", lineHeight: 1, whiteSpace: "nowrap" }}>
            {minutes(next.minutes + next.access_minutes + (next.state_minutes ?? 0))}
          </Typography>
        </Stack>
        <Typography sx={{ mt: 0.75 }}>{next.reason}</Typography>
      </Box>
      <Stack sx={{ p: 2, gap: 1.75 }}>
        <First {...{ catalogue, check, next, words, closed, onKeep }} />
        {next.watch && <Typography sx={{ fontWeight: 650 }}>{next.watch}</Typography>}
        <Cautions catalogue={catalogue} ids={next.cautions ?? check.cautions} />
        <Box component="ol" sx={{ m: 0, pl: 2.5, "& li": { mb: 0.5 } }}>
          {check.how.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </Box>
        {!closed && check.settles.some((id) => readOff(catalogue, id)) && (
          <Button
            component={Link}
            to={`/jobs/${job}/round`}
            variant="outlined"
            sx={{ alignSelf: "flex-start", borderColor: "text.primary", color: "text.primary" }}
          >
            Type what was read: judged against this engine
          </Button>
        )}
        {!closed && (
          <Outcome
            key={check.id}
            {...{ job, catalogue, possible, check, words, next, onKeep }}
            open={openFindings(catalogue, check, possible)}
          />
        )}
      </Stack>
    </Box>
  );
}

/** Told by figures: whoever has an instrument types them, who has none says yes or no. */
const readOff = (c: Catalogue, finding: string) => c.findings.find((f) => f.id === finding)?.source === "reading";

interface FirstProps {
  catalogue: Catalogue;
  check: Schemas["Check"];
  next: NextCheck;
  words: Words;
  closed: boolean;
  onKeep: Props["onKeep"];
}

/** What must be so before the check: what stands in the way or is not known is one touch from being said. */
function First(p: FirstProps) {
  const steps = p.next.before ?? [];
  const asked = new Set(steps.map((s) => s.id));
  const needs = p.catalogue.needs.filter((n) => p.check.needs.includes(n.id) && !asked.has(n.id)).map((n) => n.label);
  if (p.next.access_minutes > 0)
    needs.push(`${p.words.access(p.check.access ?? "")}: ${minutes(p.next.access_minutes)} of the time`);
  const running = p.check.engine === "running" ? "Engine running." : "";
  if (needs.length + steps.length === 0)
    return running ? <Typography sx={{ fontWeight: 650 }}>{running}</Typography> : null;
  return (
    <Box sx={{ borderLeft: 6, borderColor: "text.primary", pl: 1.5 }}>
      <Typography variant="h3">Before you begin</Typography>
      <Box component="ul" sx={{ m: 0, pl: 2.25 }}>
        {needs.map((n) => (
          <li key={n}>{n}</li>
        ))}
        {running && <li>Then: engine running</li>}
      </Box>
      {steps.map((s) => (
        <Stack key={s.id} direction="row" sx={{ alignItems: "center", gap: 1, mt: 0.75 }}>
          <Typography sx={{ mr: "auto", lineHeight: 1.25 }}>
            {s.label}
            {s.minutes > 1 && (
              <Box component="span" sx={{ color: "text.secondary" }}>
                {s.known ? `, ${minutes(s.minutes)} of the time` : `, ${minutes(s.minutes)} if it is not so yet`}
              </Box>
            )}
          </Typography>
          {!p.closed && (
            <Button
              variant="choice"
              onClick={() => p.onKeep(settling(s), touchOf(s))}
              aria-label={`${touchOf(s)}: ${s.label}`}
            >
              {touchOf(s)}
            </Button>
          )}
        </Stack>
      ))}
    </Box>
  );
}

function Cautions({ catalogue, ids }: { catalogue: Catalogue; ids: string[] }) {
  const { water } = useTheme();
  const list = catalogue.cautions.filter((k) => ids.includes(k.id));
  if (list.length === 0) return null;
  return (
    <Stack sx={{ gap: 0.75 }}>
      {list.map((k) => (
        <Typography key={k.id} sx={{ borderLeft: 6, borderColor: water.found, pl: 1.5, lineHeight: 1.35 }}>
          <strong>{k.label}.</strong> {k.text}
        </Typography>
      ))}
    </Stack>
  );
}

interface OutcomeProps {
  job: string;
  catalogue: Catalogue;
  possible: Set<string>;
  check: Schemas["Check"];
  words: Words;
  next: NextCheck;
  open: string[];
  onKeep: Props["onKeep"];
}

/** What was found: one tap where the check settles one thing, else a tap for each thing seen and one to keep. */
function Outcome({ job, catalogue, possible, check, words, next, open, onKeep }: OutcomeProps) {
  const [{ marks, took }, setDraft, forget] = useUnkept(job, check.label, {
    marks: {} as Marks,
    took: Math.round(next.minutes + next.access_minutes),
  });
  const setTook = (minutes: number) => setDraft((d) => ({ ...d, took: minutes }));
  const mark = useCallback(
    (id: string, m: Mark | undefined) => setDraft((d) => ({ ...d, marks: marked(catalogue, d.marks, id, m) })),
    [setDraft, catalogue],
  );
  const limited = { ...check, settles: open };
  const { worn, single } = asked(catalogue, open);
  const alone = single.length === 0 && worn.length === 1 && worn.every((w) => w.heavy.length === 1); // one tap says all
  const keep = (m: Marks) => {
    const label = `${check.label}: ${keepLabel(limited, m, words.finding)}`;
    onKeep(
      { kind: "check", check: check.id, outcome: "done", minutes: took, stated: statedOf(limited, m, worn) },
      label,
    );
    forget();
  };
  const without = (outcome: "skipped" | "inconclusive", say: string) => {
    const minutes = outcome === "skipped" ? 0 : took;
    onKeep({ kind: "check", check: check.id, outcome, minutes }, `${check.label}: ${say}`);
    forget();
  };
  const some = open.some((id) => marks[id]);
  const left = single.some((id) => !marks[id]) || worn.some((w) => gradeOf(w, marks).length === 0);
  const only = open.length === 1 ? open[0] : undefined;
  return (
    <Stack
      sx={{ gap: 1.25, borderTop: 1, borderColor: "divider", pt: 1.5 }}
      role="group"
      aria-label="What did you find?"
    >
      <Typography variant="h3">What did you find?</Typography>
      <Stepper label="It took" unit="min" value={took} onChange={setTook} />
      {only ? (
        <OneTap
          label={words.finding(only)}
          means={meaning(catalogue, only, possible, words)}
          onTap={(m) => keep({ [only]: m })}
        />
      ) : (
        <>
          {worn.map((w) => (
            <GradeRow
              key={w.grade.id}
              worn={w}
              words={words}
              marks={marks}
              means={(id) => meaning(catalogue, id, possible, words)}
              onTap={(tap) =>
                alone ? keep(graded(w, marks, tap)) : setDraft((d) => ({ ...d, marks: graded(w, d.marks, tap) }))
              }
            />
          ))}
          {single.map((id) => (
            <MarkRow
              key={id}
              id={id}
              label={words.finding(id)}
              means={meaning(catalogue, id, possible, words)}
              mark={marks[id]}
              onMark={mark}
              answers={lookAnswers}
            />
          ))}
          {some && (
            <Button variant="contained" size="large" onClick={() => keep(marks)}>
              {keepLabel(limited, marks, words.finding)}
            </Button>
          )}
          {single.length > 0 && (
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              ? is not sure: a hint, no proof; a better look is offered.
            </Typography>
          )}
          {!alone && single.length + worn.length < manyFrom && left && (
            <Button variant={some ? "choice" : "contained"} size="large" onClick={() => keep(allClear(limited, marks))}>
              {some ? "Save, and none of the others" : "All clear: none of these"}
            </Button>
          )}
        </>
      )}
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
        <Button onClick={() => without("inconclusive", "inconclusive")}>Inconclusive</Button>
        <Button onClick={() => without("skipped", "cannot get at it")}>Cannot get at it</Button>
      </Stack>
    </Stack>
  );
}

function OneTap({ label, means, onTap }: { label: string; means: string; onTap: (m: Mark) => void }) {
  return (
    <Stack sx={{ gap: 1 }}>
      <Box>
        <Typography sx={{ fontWeight: 650 }}>{label}?</Typography>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {means}
        </Typography>
      </Box>
      <Stack direction="row" sx={{ gap: 1 }}>
        <Button variant="outlined" size="large" sx={oneTap} onClick={() => onTap("present")}>
          Yes, it is so
        </Button>
        <Button variant="outlined" size="large" sx={oneTap} onClick={() => onTap("absent")}>
          No
        </Button>
        <Button variant="outlined" size="large" sx={oneTap} onClick={() => onTap("unsure")}>
          Not sure
        </Button>
      </Stack>
    </Stack>
  );
}

const oneTap = { flex: 1, minHeight: 60, border: 2, borderColor: "text.primary", color: "text.primary" };
