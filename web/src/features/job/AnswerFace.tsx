import { Box, Stack } from "@mui/material";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { Drawn } from "../../ui/Drawn";

interface Props {
  of?: Schemas["Drawing"];
  /** The drawing stands over the words: where three answers lie side by side. */
  over?: boolean;
  width?: number;
  children: ReactNode;
}

/** An answer as it looks, and in words. The drawing lies on paper, whatever the button is filled with. */
export function AnswerFace({ of, over = false, width = 64, children }: Props) {
  if (!of?.plate) return <span>{children}</span>;
  return (
    <Stack
      component="span"
      direction={over ? "column" : "row"}
      sx={{ alignItems: "center", gap: over ? 0.25 : 1, width: over ? "auto" : "100%" }}
    >
      <Box component="span" sx={{ bgcolor: "background.paper", borderRadius: 0.5, p: "2px", flex: "none" }}>
        <Drawn of={of} width={width} small />
      </Box>
      <Box component="span" sx={{ textAlign: over ? "center" : "left", minWidth: 0, flex: over ? "none" : 1 }}>
        {children}
      </Box>
    </Stack>
  );
}
