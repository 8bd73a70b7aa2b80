import { Box, Typography } from "@mui/material";
import type { Words } from "../../ui/words";
import type { DrawnOf } from "../../ui/drawings";
import { AnswerFace } from "./AnswerFace";
import { gradeDrawn, gradeOf, type Marks, type Worn } from "./outcome";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Props {
  worn: Worn;
  words: Words;
  drawn: DrawnOf["answer"];
  marks: Marks;
  /** What the heavy one would mean. */
  means: (finding: string) => string;
  onTap: (tap: string) => void;
}

/** A look at something that wears: none, a little, or much of it. A little is put right while it is open. */
export function GradeRow({ worn, words, drawn, marks, means, onTap }: Props) {
  const { grade, light, heavy } = worn;
  const chosen = gradeOf(worn, marks);
  const answers: [string, string, string?][] = [
    ["none", "None"],
    [light, words.finding(light), "Common in service, seldom the cause"],
    ...heavy.map((h): [string, string, string] => [h, words.finding(h), means(h)]),
    ["unsure", "Not sure"],
  ];
  return (
    <Box role="group" aria-label={grade.label}>
      <Typography sx={{ fontWeight: 650, mb: 0.5 }}>{grade.label}</Typography>
      <Box sx={{ display: "grid", gap: 0.75, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" } }}>
        {answers.map(([id, say, means]) => (
          <ChoiceButton
            key={id}
            aria-pressed={chosen.includes(id)}
            data-on={chosen.includes(id)}
            aria-label={`${grade.label}: ${say}`}
            onClick={() => onTap(id)}
            sx={{ justifyContent: "flex-start", textAlign: "left", minHeight: 48, lineHeight: 1.2 }}
          >
            <AnswerFace of={gradeDrawn(worn, drawn, id)} width={72}>
              {say}
              {means && (
                <Typography component="span" variant="body2" sx={{ display: "block", fontWeight: 400, opacity: 0.85 }}>
                  {means}
                </Typography>
              )}
            </AnswerFace>
          </ChoiceButton>
        ))}
      </Box>
    </Box>
  );
}
