import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Schemas } from "../../api/client";

/** By how many looks were made: in how many jobs the cause stood first, or among the first three, a bar each. */
export function WhereItStood({ hindsight: h }: { hindsight: Schemas["Hindsight"] }) {
  const rows = [
    { label: "By the complaint", hits: h.complaint },
    ...h.after.map((hits, i) => ({ label: i === 0 ? "After one look" : `After ${i + 1} looks`, hits })),
  ];
  return (
    <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
      {rows.map((r) => (
        <Box
          component="li"
          key={r.label}
          sx={{ display: "grid", gridTemplateColumns: "8.5em minmax(0, 1fr)", columnGap: 1.5, mb: 1 }}
        >
          <Typography>{r.label}</Typography>
          <Box>
            <Bar hits={r.hits} of={h.jobs} />
            <Typography variant="body2">
              {`${r.hits.first} of ${h.jobs} first, ${r.hits.three} among the first three`}
            </Typography>
          </Box>
        </Box>
      ))}
    </Box>
  );
}

/** Full as far as it stood first, hatched as far as it stood among the first three. */
function Bar({ hits, of }: { hits: Schemas["HindsightHits"]; of: number }) {
  const { water, palette } = useTheme();
  const share = (n: number) => `${(100 * n) / Math.max(1, of)}%`;
  return (
    <Box
      aria-hidden="true"
      sx={{ position: "relative", height: 18, border: 1, borderColor: "text.secondary", borderRadius: 0.5 }}
    >
      <Box
        sx={{
          position: "absolute",
          inset: 0,
          width: share(hits.three),
          background: `repeating-linear-gradient(135deg, ${water.found} 0 2px, ${palette.background.paper} 2px 6px)`,
        }}
      />
      <Box sx={{ position: "absolute", inset: 0, width: share(hits.first), bgcolor: water.found }} />
    </Box>
  );
}
