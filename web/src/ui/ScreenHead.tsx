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
      <Box sx={{ ...place, ...(of?.plate && { bgcolor: "background.paper" }) }}>
        <Drawn of={of} width={160} />
      </Box>
    </Stack>
  );
}

/** Where the drawing comes: nothing moves when it does, and no paper lies there before. */
const place = {
  flex: "none",
  width: { xs: 104, sm: 160 },
  minHeight: { xs: 80, sm: 122 },
  borderRadius: 1,
  p: 0.5,
} as const;
