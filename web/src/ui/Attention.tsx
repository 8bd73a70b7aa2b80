import { Box, Typography } from "@mui/material";

/** Something to mind about an answer: a mark that needs no colour, and a sentence. */
export function Attention({ children }: { children: string }) {
  return (
    <Box role="note" sx={{ display: "flex", gap: 1.25, alignItems: "flex-start" }}>
      <Box
        aria-hidden="true"
        sx={{
          flex: "none",
          width: 26,
          height: 26,
          mt: "1px",
          display: "grid",
          placeItems: "center",
          bgcolor: (t) => t.water.suspect,
          color: "background.paper",
          fontWeight: 800,
          clipPath: "polygon(50% 0, 100% 100%, 0 100%)",
          pt: "6px",
          fontSize: "0.95rem",
        }}
      >
        !
      </Box>
      <Typography sx={{ fontWeight: 600 }}>{children}</Typography>
    </Box>
  );
}
