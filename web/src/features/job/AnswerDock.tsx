import { useState, type ReactNode } from "react";
import type { Answers } from "./answers";
import { AnswerFace } from "./AnswerFace";
import { clearLabel, onlyAnswers, Options, pictureOf } from "./AnswerList";
import { lookAnswers } from "./MarkRow";
import { ReadButton } from "./ReadButton";
import { gradeDrawn, gradeOf, type Worn } from "./outcome";
import { ChoiceButton } from "../../ui/ChoiceButton";
import css from "./AnswerDock.module.css";

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
        <ChoiceButton onClick={() => p.onList(true)} className={css.answer}>
          No instrument: by judgement
        </ChoiceButton>
      </Dock>
    );
  if (p.only)
    return (
      <Dock answers={p} title={`${p.words.finding(p.only)}?`} why={p.means(p.only)} columns={3} onRead={p.onRead}>
        {onlyAnswers.map(([m, say]) => (
          <ChoiceButton key={m} onClick={() => p.saveOnly(m)} className={css.answer}>
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
      answers: (done: () => void) => <Options {...p} of={g} onTap={done} className={`${css.answer} ${css.option}`} />,
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
      className={css.answer}
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
      className={`${css.answer} ${css.grade}`}
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
        <button type="button" onClick={p.save} className={`contained ${css.answer}`}>
          {p.saveLabel}
        </button>
      )}
      <div className={css.ends}>
        {p.left && !p.only && !p.many && (
          <button type="button" onClick={p.saveClear} className={`${p.some ? "choice" : "contained"} ${css.answer}`}>
            {clearLabel(p.some)}
          </button>
        )}
        <button type="button" onClick={p.inconclusive} className={`text ${css.aside}`}>
          {p.ways.inconclusive}
        </button>
        <button type="button" onClick={p.skipped} className={`text ${css.aside}`}>
          {p.ways.skipped}
        </button>
      </div>
    </>
  );
}

function Turn(p: { label: string; sign: string; disabled: boolean; onTurn: () => void }) {
  return (
    <button type="button" aria-label={p.label} disabled={p.disabled} onClick={p.onTurn} className={`text ${css.turn}`}>
      {p.sign}
    </button>
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
    <div role="group" aria-label={p.answers.ways.question} data-check={p.answers.id} className={css.dock}>
      {p.answers.before.length > 0 && (
        <p className={css.before}>
          <strong>Before you begin:</strong> {p.answers.before.join("; ")}
        </p>
      )}
      <div className={css.head}>
        <div className={css.asked}>
          <p className={css.check}>{p.answers.check}</p>
          <p className={css.title}>{p.title}</p>
          {p.why && <p className={css.why}>{p.why}</p>}
        </div>
        {p.turn}
      </div>
      {p.onRead && <ReadButton onRead={p.onRead} />}
      <div className={css.answers} style={{ gridTemplateColumns: `repeat(${p.columns ?? 1}, minmax(0, 1fr))` }}>
        {p.children}
      </div>
      <Ends {...p.answers} />
    </div>
  );
}
