import { Box, Typography } from "@mui/material";
import type { Schemas } from "../api/client";
import { useCatalogue } from "../api/queries";

/** What can hurt, before it is done: the cautions that always stand here, or those that an answer brings. */
export function Cautions({ ids, told }: { ids: string[]; told?: Schemas["Caution"][] }) {
  const catalogue = useCatalogue();
  const list = told ?? catalogue.data?.cautions.filter((c) => ids.includes(c.id)) ?? [];
  if (list.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="Cautions"
      sx={{
        borderLeft: 8,
        borderColor: (t) => t.water.suspect,
        bgcolor: "background.paper",
        px: 1.5,
        py: 1,
        borderRadius: 1,
      }}
    >
      {list.map((c) => (
        <Typography key={c.id} sx={{ mb: 0.5, "&:last-child": { mb: 0 } }}>
          <strong>{c.label}.</strong> {c.text}
        </Typography>
      ))}
    </Box>
  );
}
