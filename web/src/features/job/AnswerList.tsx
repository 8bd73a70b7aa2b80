import { Box, Button, Stack, Typography } from "@mui/material";
import type { ReactNode } from "react";
import { AnswerFace } from "./AnswerFace";
import type { Answers } from "./answers";
import { GradeRow } from "./GradeRow";
import { lookAnswers, MarkRow } from "./MarkRow";
import type { Mark, OneOf } from "./outcome";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** The answers one under the other: at a desk, or where many are given by judgement. */
export function AnswerList(p: Answers & { children: ReactNode }) {
  const { words, marks, worn, single, only, some } = p;
  return (
    <Stack sx={{ gap: 1.25, borderTop: 1, borderColor: "divider", pt: 1.5 }} role="group" aria-label={p.ways.question}>
      <Typography variant="h3">{p.ways.question}</Typography>
      {p.children}
      {only ? (
        <OneTap {...p} finding={only} />
      ) : (
        <>
          {worn.map((w) => (
            <GradeRow
              key={w.grade.id}
              worn={w}
              words={words}
              drawn={p.drawn}
              marks={marks}
              means={p.means}
              onTap={(answer) => p.tapGrade(w, answer)}
            />
          ))}
          {p.oneOf.map((g) => (
            <Box key={g.label} role="group" aria-label={g.label}>
              <Typography sx={{ fontWeight: 650, mb: 0.5 }}>{g.label}</Typography>
              <Box sx={{ display: "grid", gap: 0.75, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" } }}>
                <Options {...p} of={g} />
              </Box>
            </Box>
          ))}
          {single.map((id) => (
            <MarkRow
              key={id}
              id={id}
              label={words.finding(id)}
              means={p.means(id)}
              mark={marks[id]}
              onMark={p.tap}
              answers={lookAnswers}
              drawn={p.drawn}
            />
          ))}
          {some && (
            <Button variant="contained" size="large" onClick={p.save}>
              {p.saveLabel}
            </Button>
          )}
          {single.length > 0 && (
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              ? is not sure: a hint, no proof; a better look is offered.
            </Typography>
          )}
          {!p.many && p.left && (
            <Button variant={some ? "choice" : "contained"} size="large" onClick={p.saveClear}>
              {clearLabel(some)}
            </Button>
          )}
        </>
      )}
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
        <Button onClick={p.inconclusive}>{p.ways.inconclusive}</Button>
        <Button onClick={p.skipped}>{p.ways.skipped}</Button>
      </Stack>
    </Stack>
  );
}

/** The options of a question: one is so, and a second touch takes it back. */
export function Options({
  of,
  words,
  drawn,
  marks,
  tap,
  onTap,
  className,
}: Answers & { of: OneOf; onTap?: () => void; className?: string }) {
  return of.options.map((id) => (
    <ChoiceButton
      key={id}
      aria-pressed={marks[id] === "present"}
      data-on={marks[id] === "present"}
      onClick={() => {
        tap(id, marks[id] === "present" ? undefined : "present");
        onTap?.();
      }}
      {...(className ? { className } : { sx: option })}
    >
      <AnswerFace of={drawn(id, "present")} width={60}>
        {words.finding(id)}
      </AnswerFace>
    </ChoiceButton>
  ));
}

const option = { minHeight: 52, px: 0.75, py: 0.25, lineHeight: 1.15 } as const;

/** What is said of all that was not tapped. */
export const clearLabel = (some: boolean) => (some ? "Save, and none of the others" : "All clear: none of these");

/** How an answer looks to whoever must say whether it is so; not sure looks like nothing. */
export const pictureOf = (p: Pick<Answers, "drawn">, finding: string, m: Mark) =>
  m === "present" || m === "absent" ? p.drawn(finding, m) : undefined;

function OneTap(p: Answers & { finding: string }) {
  return (
    <Stack sx={{ gap: 1 }}>
      <Box>
        <Typography sx={{ fontWeight: 650 }}>{p.words.finding(p.finding)}?</Typography>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {p.means(p.finding)}
        </Typography>
      </Box>
      <Stack direction="row" sx={{ gap: 1 }}>
        {onlyAnswers.map(([m, say]) => (
          <Button key={m} variant="outlined" size="large" sx={oneTap} onClick={() => p.saveOnly(m)}>
            <AnswerFace of={pictureOf(p, p.finding, m)} over width={104}>
              {say}
            </AnswerFace>
          </Button>
        ))}
      </Stack>
    </Stack>
  );
}

/** The answers of a check that settles one thing. */
export const onlyAnswers: [Mark, string][] = [
  ["present", "Yes, it is so"],
  ["absent", "No"],
  ["unsure", "Not sure"],
];

const oneTap = { flex: 1, minHeight: 60, border: 2, borderColor: "text.primary", color: "text.primary" };
