import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { wordsOf } from "../words";
import { useLeaving, useOthers } from "./presence";

/** Who else has this job open, and what they are at. */
export function Others({ job }: { job: string }) {
  const others = useOthers(job);
  const catalogue = useCatalogue().data;
  useLeaving(job);
  if (others.length === 0) return null;
  const words = catalogue && wordsOf(catalogue);
  const at = (o: Schemas["Other"]) => (o.check && words ? `${o.name}, at “${words.check(o.check)}”` : o.name);
  return (
    <Box
      role="note"
      aria-label="Also here"
      sx={{ px: { xs: 1.5, md: 2.5 }, py: 0.5, bgcolor: "background.paper", borderBottom: 1, borderColor: "divider" }}
    >
      Also here: {others.map(at).join("; ")}
    </Box>
  );
}
