import { Box, Stack, Typography } from "@mui/material";
import type { JobPage } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import type { Words } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Props {
  page: JobPage;
  words: Words;
  fault: string;
  onKeep: (entry: JobEntry, label: string) => void;
}

const shares = [0.1, 0.3, 0.5, 0.7, 0.9];

/** Whether what was found is enough to explain the heat, by the engine's own model; how far it has gone is a touch. */
export function HowMuch({ page, words, fault, onKeep }: Props) {
  const x = page.enough.find((e) => e.fault === fault);
  if (!x) return null;
  const told = x.share;
  return (
    <Box component="section" aria-label={`Is it enough: ${words.fault(fault)}`} sx={{ mt: 1 }}>
      <Typography sx={{ fontWeight: 650 }}>{verdicts[x.verdict]}</Typography>
      <Typography variant="body2" sx={{ lineHeight: 1.35 }}>
        {x.say}
      </Typography>
      <Stack
        direction="row"
        role="group"
        aria-label={`How much ${x.of}?`}
        sx={{ gap: 0.5, mt: 0.75, flexWrap: "wrap" }}
      >
        {shares.map((share) => {
          const on = told !== undefined && Math.abs(told - share) < 0.005;
          const say = `${Math.round(100 * share)}\u00a0%`;
          return (
            <ChoiceButton
              key={share}
              aria-pressed={on}
              data-on={on}
              aria-label={`${say} ${x.of}`}
              sx={{ minWidth: 54, px: 0.25 }}
              onClick={() =>
                onKeep(
                  { kind: "strip", strip: { do: "extent", item: fault, share } },
                  `${words.fault(fault)}: ${say} ${x.of}`,
                )
              }
            >
              {say}
            </ChoiceButton>
          );
        })}
      </Stack>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        {x.of}
        {told !== undefined &&
          !shares.some((s) => Math.abs(s - told) < 0.005) &&
          `: ${Math.round(100 * told)}\u00a0% measured`}
      </Typography>
    </Box>
  );
}

const verdicts: Record<JobPage["enough"][number]["verdict"], string> = {
  enough: "Enough by itself",
  part: "Part of it",
  "not-enough": "Not enough: look on",
  depends: "Enough? That hangs on how much it was",
  "cannot-say": "The model cannot say whether it is enough",
};
