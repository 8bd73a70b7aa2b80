import { Box, Typography } from "@mui/material";
import type { Catalogue, Schemas } from "../../api/client";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";

/** Every thing that can be seen, as it should be and as it should not: good and bad side by side. */
export function AllDrawings({ catalogue }: { catalogue: Catalogue }) {
  const drawn = useDrawn();
  const pairs = catalogue.findings.flatMap((f) => {
    const [good, bad] = [drawn.answer(f.id, "absent"), drawn.answer(f.id, "present")];
    return good?.plate && bad?.plate ? [{ id: f.id, label: f.label, good, bad }] : [];
  });
  return (
    <>
      <Typography variant="h1">Good and bad</Typography>
      <Typography sx={{ color: "text.secondary", mb: 2 }}>
        Left as it should be, right as the words say. Not to scale, and no maker&apos;s part.
      </Typography>
      <Box sx={{ display: "grid", gap: 2.5, gridTemplateColumns: "repeat(auto-fill, minmax(min(100%, 320px), 1fr))" }}>
        {pairs.map((p) => (
          <Pair key={p.id} {...p} says={drawn.says} />
        ))}
      </Box>
    </>
  );
}

interface PairProps {
  label: string;
  good: Schemas["Drawing"];
  bad: Schemas["Drawing"];
  says: (of: Schemas["Drawing"]) => string;
}

function Pair({ label, good, bad, says }: PairProps) {
  return (
    <Box component="figure" sx={{ m: 0, bgcolor: "background.paper", borderRadius: 1, p: 1.25 }}>
      <Box sx={{ display: "grid", gridTemplateColumns: "repeat(2, minmax(0, 1fr))", gap: 1 }}>
        <Drawn of={good} label={`${says(good)}, as it should be`} width={200} />
        <Drawn of={bad} label={`${says(bad)}: ${label}`} width={200} />
      </Box>
      <Typography component="figcaption" sx={{ fontWeight: 650, lineHeight: 1.25, mt: 0.75 }}>
        {label}
      </Typography>
    </Box>
  );
}
