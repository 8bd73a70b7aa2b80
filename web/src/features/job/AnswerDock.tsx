import { Box, Button, Stack, Typography } from "@mui/material";
import { useState, type ReactNode } from "react";
import type { Answers } from "./answers";
import { AnswerFace } from "./AnswerFace";
import { clearLabel, onlyAnswers, Options, pictureOf } from "./AnswerList";
import { lookAnswers } from "./MarkRow";
import { ReadButton } from "./ReadButton";
import { gradeDrawn, gradeOf, type Worn } from "./outcome";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Props = Answers & {
  /** Opens the figures, where it is read off. */
  onRead?: () => void;
  /** The answers are listed in the card, by judgement. */
  listed: boolean;
  onList: (listed: boolean) => void;
};

/** The answers on a phone: one question at a time, within the thumb's reach whatever stands above. */
export function AnswerDock(p: Props) {
  if (p.many)
    return p.listed ? null : (
      <Dock answers={p} title="Told by figures">
        {p.onRead && <ReadButton onRead={p.onRead} />}
        <ChoiceButton onClick={() => p.onList(true)} sx={answer}>
          No instrument: by judgement
        </ChoiceButton>
      </Dock>
    );
  if (p.only)
    return (
      <Dock answers={p} title={`${p.words.finding(p.only)}?`} why={p.means(p.only)} columns={3} onRead={p.onRead}>
        {onlyAnswers.map(([m, say]) => (
          <ChoiceButton key={m} onClick={() => p.saveOnly(m)} sx={answer}>
            <AnswerFace of={pictureOf(p, p.only ?? "", m)} over>
              {say}
            </AnswerFace>
          </ChoiceButton>
        ))}
      </Dock>
    );
  return <Questions {...p} />;
}

/** A question of a check: what it is called, why it is asked, whether it has an answer, and its answers. */
interface Question {
  title: string;
  why?: string;
  columns: number;
  answered: boolean;
  /** Draws the answers; done is told once the next question can be asked. */
  answers: (done: () => void) => ReactNode;
}

function questionsOf(p: Props): Question[] {
  const { worn, oneOf, single, marks, words } = p;
  return [
    ...oneOf.map((g) => ({
      title: g.label,
      columns: 2,
      answered: g.options.some((id) => marks[id] === "present"),
      answers: (done: () => void) => <Options {...p} of={g} onTap={done} />,
    })),
    ...worn.map((w) => ({
      title: w.grade.label,
      columns: 2,
      answered: gradeOf(w, marks).length > 0,
      answers: (done: () => void) => (
        <Grades
          {...p}
          w={w}
          onTap={(tapped) => {
            p.tapGrade(w, tapped);
            if (w.heavy.length === 1 || !w.heavy.includes(tapped)) done();
          }}
        />
      ),
    })),
    ...single.map((id) => ({
      title: `${words.finding(id)}?`,
      why: p.means(id),
      columns: 3,
      answered: marks[id] !== undefined,
      answers: (done: () => void) => <Single {...p} finding={id} onTap={done} />,
    })),
  ];
}

/** What is asked, one after the other; a tap leads to the next that has no answer. */
function Questions(p: Props) {
  const [at, setAt] = useState(0);
  const list = questionsOf(p);
  const question = list[Math.min(at, list.length - 1)];
  if (!question) return null;
  const goOn = () => {
    const after = list.findIndex((q, i) => i > at && !q.answered);
    if (after >= 0) setAt(after);
  };
  const { title, why, columns, answers } = question;
  return (
    <Dock
      answers={p}
      title={list.length > 1 ? `${at + 1} of ${list.length}: ${title}` : title}
      {...{ why, columns }}
      turn={
        list.length > 1 && (
          <>
            <Turn label="Question before" sign="‹" disabled={at === 0} onTurn={() => setAt(at - 1)} />
            <Turn label="Question after" sign="›" disabled={at === list.length - 1} onTurn={() => setAt(at + 1)} />
          </>
        )
      }
    >
      {answers(goOn)}
    </Dock>
  );
}

function Single(p: Props & { finding: string; onTap: () => void }) {
  const { finding, words, marks, tap, onTap } = p;
  const answers = lookAnswers.map(([m, say]) => [m, m === "unsure" ? "? Not sure" : say] as const);
  return answers.map(([m, say]) => (
    <ChoiceButton
      key={m}
      aria-pressed={marks[finding] === m}
      data-on={marks[finding] === m}
      aria-label={`${words.finding(finding)}: ${say}`}
      onClick={() => {
        tap(finding, marks[finding] === m ? undefined : m);
        onTap();
      }}
      sx={answer}
    >
      <AnswerFace of={pictureOf(p, finding, m)} over>
        {say}
      </AnswerFace>
    </ChoiceButton>
  ));
}

function Grades({ w, words, drawn, marks, onTap }: Props & { w: Worn; onTap: (tap: string) => void }) {
  const chosen = gradeOf(w, marks);
  const list: [string, string][] = [
    ["none", "None"],
    [w.light, words.finding(w.light)],
    ...w.heavy.map((h): [string, string] => [h, words.finding(h)]),
    ["unsure", "Not sure"],
  ];
  return list.map(([id, say]) => (
    <ChoiceButton
      key={id}
      aria-pressed={chosen.includes(id)}
      data-on={chosen.includes(id)}
      aria-label={`${w.grade.label}: ${say}`}
      onClick={() => onTap(id)}
      sx={{ ...answer, justifyContent: "flex-start", px: 0.5, fontSize: "0.88rem" }}
    >
      <AnswerFace of={gradeDrawn(w, drawn, id)} width={52}>
        {say}
      </AnswerFace>
    </ChoiceButton>
  ));
}

/** What keeps the answers, and what is said of all the others; the two that say that nothing was learnt. */
function Ends(p: Answers) {
  return (
    <>
      {p.some && (
        <Button variant="contained" onClick={p.save} sx={answer}>
          {p.saveLabel}
        </Button>
      )}
      <Box sx={{ display: "grid", gap: 0.75, gridAutoFlow: "column", gridAutoColumns: "minmax(0, 1fr)" }}>
        {p.left && !p.only && !p.many && (
          <Button variant={p.some ? "choice" : "contained"} onClick={p.saveClear} sx={answer}>
            {clearLabel(p.some)}
          </Button>
        )}
        <Button onClick={p.inconclusive} sx={aside}>
          {p.ways.inconclusive}
        </Button>
        <Button onClick={p.skipped} sx={aside}>
          {p.ways.skipped}
        </Button>
      </Box>
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

interface DockProps {
  answers: Answers;
  title: string;
  why?: string;
  columns?: number;
  turn?: ReactNode;
  onRead?: () => void;
  children: ReactNode;
}

function Dock(p: DockProps) {
  return (
    <Stack
      role="group"
      aria-label={p.answers.ways.question}
      data-check={p.answers.id}
      sx={{
        bgcolor: "background.paper",
        borderTop: 3,
        borderColor: "text.primary",
        px: 1.5,
        py: 0.75,
        gap: 0.75,
      }}
    >
      {p.answers.cautions.length > 0 && (
        <Typography
          sx={{ borderLeft: 6, borderColor: (t) => t.water.found, pl: 1, fontSize: "0.85rem", lineHeight: 1.2 }}
        >
          <strong>Before you begin:</strong> {p.answers.cautions.join("; ")}
        </Typography>
      )}
      <Stack direction="row" sx={{ alignItems: "center", minHeight: 40 }}>
        <Box sx={{ mr: "auto", minWidth: 0 }}>
          <Typography variant="body2" noWrap sx={{ color: "text.secondary", lineHeight: 1.2 }}>
            {p.answers.check}
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
      {p.onRead && <ReadButton onRead={p.onRead} />}
      <Box sx={{ display: "grid", gap: 0.75, gridTemplateColumns: `repeat(${p.columns ?? 1}, minmax(0, 1fr))` }}>
        {p.children}
      </Box>
      <Ends {...p.answers} />
    </Stack>
  );
}

const answer = { minHeight: 52, px: 1, py: 0.25, lineHeight: 1.15, fontSize: "0.95rem" } as const;
const aside = { minHeight: 48, px: 0.5, lineHeight: 1.15, fontSize: "0.92rem" } as const;
