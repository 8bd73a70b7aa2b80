import { Box, Button, Stack, Typography } from "@mui/material";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import type { Answers } from "./answers";
import { clearLabel, onlyAnswers } from "./AnswerList";
import { lookAnswers } from "./MarkRow";
import { gradeOf, type Worn } from "./outcome";

type Props = Answers & {
  job: string;
  /** The answers are listed in the card, by judgement. */
  listed: boolean;
  onList: (listed: boolean) => void;
};

/** The answers on a phone: one question at a time, within the thumb's reach whatever stands above. */
export function AnswerDock(p: Props) {
  if (p.many)
    return p.listed ? null : (
      <Dock {...p} title="Told by figures">
        <Button variant="contained" component={Link} to={`/jobs/${p.job}/round`} sx={answer}>
          Type what was read
        </Button>
        <Button variant="choice" onClick={() => p.onList(true)} sx={answer}>
          No instrument: by judgement
        </Button>
      </Dock>
    );
  if (p.only)
    return (
      <Dock {...p} title={`${p.words.finding(p.only)}?`} why={p.means(p.only)} columns={3}>
        {onlyAnswers.map(([m, say]) => (
          <Button key={m} variant="choice" onClick={() => p.saveOnly(m)} sx={answer}>
            {say}
          </Button>
        ))}
      </Dock>
    );
  return <Questions {...p} />;
}

/** What is asked, one after the other; a tap leads to the next that has no answer. */
function Questions(p: Props) {
  const { worn, single, marks } = p;
  const [at, setAt] = useState(0);
  const count = worn.length + single.length;
  const answered = [...worn.map((w) => gradeOf(w, marks).length > 0), ...single.map((id) => marks[id] !== undefined)];
  const goOn = (from: number) => {
    const after = answered.findIndex((is, i) => i > from && !is);
    if (after >= 0) setAt(after);
  };
  const grade = worn[at];
  const finding = single[at - worn.length];
  const title = grade ? grade.grade.label : finding ? `${p.words.finding(finding)}?` : "";
  return (
    <Dock
      {...p}
      title={count > 1 ? `${at + 1} of ${count}: ${title}` : title}
      why={finding && p.means(finding)}
      columns={grade ? 2 : 3}
      turn={
        count > 1 && (
          <>
            <Turn label="Question before" sign="‹" disabled={at === 0} onTurn={() => setAt(at - 1)} />
            <Turn label="Question after" sign="›" disabled={at === count - 1} onTurn={() => setAt(at + 1)} />
          </>
        )
      }
      below={<Save {...p} />}
    >
      {grade && (
        <Grades
          {...p}
          w={grade}
          onTap={(tapped) => {
            p.tapGrade(grade, tapped);
            if (grade.heavy.length === 1 || !grade.heavy.includes(tapped)) goOn(at);
          }}
        />
      )}
      {finding &&
        lookAnswers.map(([m, say]) => (
          <Button
            key={m}
            variant="choice"
            aria-pressed={marks[finding] === m}
            data-on={marks[finding] === m}
            aria-label={`${p.words.finding(finding)}: ${say}`}
            onClick={() => {
              p.tap(finding, marks[finding] === m ? undefined : m);
              goOn(at);
            }}
            sx={answer}
          >
            {say}
          </Button>
        ))}
    </Dock>
  );
}

function Grades({ w, words, marks, onTap }: Props & { w: Worn; onTap: (tap: string) => void }) {
  const chosen = gradeOf(w, marks);
  const list: [string, string][] = [
    ["none", "None"],
    [w.light, words.finding(w.light)],
    ...w.heavy.map((h): [string, string] => [h, words.finding(h)]),
    ["unsure", "Not sure"],
  ];
  return list.map(([id, say]) => (
    <Button
      key={id}
      variant="choice"
      aria-pressed={chosen.includes(id)}
      data-on={chosen.includes(id)}
      aria-label={`${w.grade.label}: ${say}`}
      onClick={() => onTap(id)}
      sx={answer}
    >
      {say}
    </Button>
  ));
}

function Save(p: Answers) {
  return (
    <>
      {p.some && (
        <Button variant="contained" onClick={p.save} sx={{ ...answer, gridColumn: "1 / -1" }}>
          {p.saveLabel}
        </Button>
      )}
      {p.left && (
        <Button
          variant={p.some ? "choice" : "contained"}
          onClick={p.saveClear}
          sx={{ ...answer, gridColumn: "1 / -1" }}
        >
          {clearLabel(p.some)}
        </Button>
      )}
    </>
  );
}

function Turn(p: { label: string; sign: string; disabled: boolean; onTurn: () => void }) {
  return (
    <Button
      aria-label={p.label}
      disabled={p.disabled}
      onClick={p.onTurn}
      sx={{ minWidth: 48, minHeight: 48, fontSize: "1.5rem", color: "text.primary" }}
    >
      {p.sign}
    </Button>
  );
}

interface DockProps extends Pick<Answers, "check" | "inconclusive" | "skipped"> {
  title: string;
  why?: string;
  columns?: number;
  turn?: ReactNode;
  below?: ReactNode;
  children: ReactNode;
}

function Dock(p: DockProps) {
  return (
    <Stack
      role="group"
      aria-label="What did you find?"
      sx={{
        bgcolor: "background.paper",
        borderTop: 3,
        borderColor: "text.primary",
        px: 1.5,
        pt: 0.5,
        gap: 0.75,
        mx: -1.5,
      }}
    >
      <Stack direction="row" sx={{ alignItems: "center", minHeight: 40 }}>
        <Box sx={{ mr: "auto", minWidth: 0 }}>
          <Typography variant="body2" noWrap sx={{ color: "text.secondary", lineHeight: 1.2 }}>
            {p.check}
          </Typography>
          <Typography sx={{ fontWeight: 700, lineHeight: 1.2 }}>{p.title}</Typography>
          {p.why && (
            <Typography variant="body2" noWrap sx={{ color: "text.secondary", lineHeight: 1.25 }}>
              {p.why}
            </Typography>
          )}
        </Box>
        {p.turn}
      </Stack>
      <Box sx={{ display: "grid", gap: 0.75, gridTemplateColumns: `repeat(${p.columns ?? 1}, minmax(0, 1fr))` }}>
        {p.children}
        {p.below}
      </Box>
      <Stack direction="row">
        <Button onClick={p.inconclusive} sx={aside}>
          Inconclusive
        </Button>
        <Button onClick={p.skipped} sx={aside}>
          Cannot get at it
        </Button>
      </Stack>
    </Stack>
  );
}

const answer = { minHeight: 52, px: 1, py: 0.25, lineHeight: 1.15, fontSize: "0.97rem" } as const;
const aside = { flex: 1, minHeight: 48 } as const;
