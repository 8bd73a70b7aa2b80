import { Box, Stack, Typography } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Drawn } from "../../ui/Drawn";

interface Props {
  title: string;
  lines?: string[];
  /** The drawing of each line; none where the yard has other lines than the drawings were made for. */
  drawn?: (i: number) => Schemas["Drawing"] | undefined;
}

/** Lines of a task, each with its drawing where there is one. */
export function DrawnLines({ title, lines, drawn }: Props) {
  if (!lines || lines.length === 0) return null;
  return (
    <Box component="section" aria-label={title} sx={{ mt: 1.25 }}>
      <Typography variant="h3">{title}</Typography>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: "none" }}>
        {lines.map((line, i) => (
          <Stack component="li" key={line} direction="row" sx={{ gap: 1.25, alignItems: "center", py: 0.5 }}>
            <Drawn of={drawn?.(i)} width={112} />
            <span>{line}</span>
          </Stack>
        ))}
      </Box>
    </Box>
  );
}
