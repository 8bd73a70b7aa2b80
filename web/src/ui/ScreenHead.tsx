import { Box, Stack, Typography } from "@mui/material";
import type { ReactNode } from "react";
import { Drawn } from "./Drawn";
import { useDrawn } from "./drawings";

interface Props {
  title: string;
  /** Of the drawings, the one that the screen begins with. */
  drawing: string;
  /** What it is for. */
  children: ReactNode;
}

/** How a screen begins: what it is, what it is for, and a drawing of it. */
export function ScreenHead({ title, drawing, children }: Props) {
  const of = useDrawn().screen(drawing);
  return (
    <Stack direction="row" sx={{ gap: 2, alignItems: "center", justifyContent: "space-between", mb: 1.5 }}>
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="h1">{title}</Typography>
        <Typography sx={{ color: "text.secondary" }}>{children}</Typography>
      </Box>
      <Box sx={{ flex: "none", width: { xs: 104, sm: 160 }, bgcolor: "background.paper", borderRadius: 1, p: 0.5 }}>
        <Drawn of={of} width={160} />
      </Box>
    </Stack>
  );
}
