import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";
import { useMay } from "../api/queries";
import type { Right } from "../api/session";

/** Who does what somebody else may not. */
const says: Partial<Record<Right, string>> = {
  work: "Who works on engines notes here; you read along.",
  sign: "A technician or the manager signs.",
  methods: "A technician or the manager changes these.",
};

/**
 * What not everybody may do: for others it stands there to be read, its controls answer no touch, and it says who does
 * it. The program refuses it in any case.
 */
export function May({ right, children }: { right: Right; children: ReactNode }) {
  const may = useMay(right);
  if (may) return children;
  return (
    <Box
      component="fieldset"
      disabled
      sx={{ border: 0, p: 0, m: 0, minWidth: 0, "& button:disabled, & input:disabled": { opacity: 0.65 } }}
    >
      <Typography component="legend" sx={{ fontWeight: 650, mb: 1, p: 0 }}>
        {says[right]}
      </Typography>
      {children}
    </Box>
  );
}
