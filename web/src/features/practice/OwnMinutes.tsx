import { Box, Button, Stack, Typography } from "@mui/material";
import type { Catalogue } from "../../api/client";
import { Stepper } from "../../ui/Stepper";
import { minutes, wordsOf } from "../../ui/words";
import { Pick } from "./Pick";

interface Props {
  catalogue: Catalogue;
  own: Record<string, number>;
  onOwn: (own: Record<string, number>) => void;
}

/** What looks take in one's own yard, where that is not what the catalogue says. */
export function OwnMinutes({ catalogue, own, onOwn }: Props) {
  const words = wordsOf(catalogue);
  return (
    <Box component="section" aria-label="Your minutes" sx={{ mt: 2 }}>
      <Typography variant="h3" component="h2">
        Your minutes
      </Typography>
      <Typography sx={{ mb: 1 }}>
        Where a look takes you longer, or less, than the catalogue says: both sides are played with yours.
      </Typography>
      <Stack sx={{ gap: 1, mb: 1 }}>
        {Object.entries(own).map(([id, m]) => (
          <Stack key={id} direction="row" sx={{ gap: 1.5, alignItems: "center", flexWrap: "wrap" }}>
            <Stepper
              label={words.check(id)}
              unit="min"
              value={m}
              onChange={(v) => onOwn({ ...own, [id]: Math.min(240, Math.max(0.5, v)) })}
            />
            <Button
              aria-label={`As usual again: ${words.check(id)}`}
              onClick={() => onOwn(Object.fromEntries(Object.entries(own).filter(([x]) => x !== id)))}
            >
              As usual again
            </Button>
          </Stack>
        ))}
      </Stack>
      <Pick
        label="Which look?"
        value=""
        of={catalogue.checks
          .filter((k) => !(k.id in own) && k.id !== "sister-look")
          .map((k) => [k.id, `${k.label}, ${minutes(k.minutes)}`])}
        onPick={(id) => onOwn({ ...own, [id]: catalogue.checks.find((k) => k.id === id)?.minutes ?? 1 })}
      />
    </Box>
  );
}
