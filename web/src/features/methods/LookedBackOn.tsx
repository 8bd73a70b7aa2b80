import { Box, Typography } from "@mui/material";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useYard } from "../../api/queries";
import { percent } from "../../ui/stations";
import { day, minutes, type Words } from "../../ui/words";

type Job = Schemas["HindsightJob"];

/** Each closed job: its cause, where that stood by the complaint alone, and what it took. */
export function LookedBackOn({ list, words }: { list: Job[]; words: Words }) {
  const nameOf = useNames();
  if (list.length === 0) return null;
  return (
    <Box component="section" aria-label="Job by job" sx={{ mt: 4 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        Job by job
      </Typography>
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {list.map((j) => (
          <Box
            component="li"
            key={j.job_id}
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "1fr 1fr 1.2fr" },
              columnGap: 2,
              borderTop: 1,
              borderColor: "divider",
              py: 1,
            }}
          >
            <Typography>
              <Box component={Link} to={`/jobs/${j.job_id}`} sx={{ color: "inherit" }}>
                {nameOf(j.engine_id)}
              </Box>
              {`, ${day(j.closed_at)}`}
            </Typography>
            <Typography sx={{ fontWeight: 650 }}>
              {j.causes.map(words.fault).join(j.one_of_these ? " or " : " and ")}
            </Typography>
            <Typography>{[placeOf(j.complaint), looksOf(j)].filter(Boolean).join("; ")}</Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

const placeOf = (r: Schemas["HindsightRanking"]) =>
  r.place === 0
    ? "No suspect of this engine"
    : `By the complaint ${r.place === 1 ? "first" : `in place ${r.place}`}, ${percent(r.probability)}`;

function looksOf(j: Job) {
  const sum = j.looks.reduce((s, l) => s + l.took_minutes, 0);
  const n = j.looks.length;
  if (n === 0) return "no looks on record";
  return `${n === 1 ? "one look" : `${n} looks`}${sum > 0 ? `, ${minutes(sum)}` : ""}`;
}

/** Engines by the names that the yard calls them, with their craft. */
function useNames() {
  const craft = useYard().data?.craft ?? [];
  const names = new Map(
    craft.flatMap((c) => c.engines.map((e) => [e.engine.id, `${c.craft.name}, ${e.engine.name}`] as const)),
  );
  return (id: string) => names.get(id) ?? "An engine of before";
}
