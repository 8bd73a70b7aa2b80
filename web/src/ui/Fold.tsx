import { Box, Button } from "@mui/material";
import { useState, type ReactNode } from "react";

/** What need not be looked at, folded away; open, it cannot be folded. */
export function Fold({ title, open, children }: { title: string; open?: boolean; children: ReactNode }) {
  const [unfolded, setUnfolded] = useState(false);
  const shown = unfolded || open === true;
  return (
    <Box>
      <Button
        aria-expanded={shown}
        onClick={() => setUnfolded(!unfolded)}
        sx={{ px: 0, color: "text.primary", textDecoration: "underline", textUnderlineOffset: 4 }}
      >
        {title}
      </Button>
      {shown && <Box sx={{ pt: 1.5 }}>{children}</Box>}
    </Box>
  );
}
