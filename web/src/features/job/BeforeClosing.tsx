import { Box, Typography } from "@mui/material";
import type { JobPage } from "../../api/client";
import { percent } from "../../ui/stations";
import { minutes, type Words } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Props {
  page: JobPage;
  words: Words;
  onCheck: (check: string) => void;
}

/** As many as are worth a line of their own. */
const most = 3;

/** The looks that spare more than they take when they are made before what was found is closed up, the best first. */
export const worthFirst = ({ diagnosis }: JobPage) =>
  diagnosis.next_checks
    .filter((n) => (n.first_saves ?? 0) >= 1)
    .sort((a, b) => (b.first_saves ?? 0) - (a.first_saves ?? 0))
    .slice(0, most);

/** What is worth a look while all is open: one touch leads to it. */
export function BeforeClosing({ page, words, onCheck }: Props) {
  const list = worthFirst(page);
  if (list.length === 0) return null;
  return (
    <Box component="section" aria-label="Before you close up" sx={{ mb: 1.5 }}>
      <Typography variant="h3">Before you close up</Typography>
      {list.map((n) => (
        <ChoiceButton
          key={n.check}
          onClick={() => onCheck(n.check)}
          sx={{ display: "block", width: "100%", textAlign: "left", mt: 0.75 }}
        >
          <strong>{words.check(n.check)}</strong>
          {`: ${minutes(n.minutes + n.access_minutes + (n.state_minutes ?? 0))}, `}
          {`${percent(n.confirm_chance)} chance of finding something; a comeback for it would cost more`}
        </ChoiceButton>
      ))}
    </Box>
  );
}
