import { Box, Button, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { Words } from "../../ui/words";

/** Checks that are not offered, and why not. */
export function RuledOut({ list, words }: { list: Schemas["RuledOut"][]; words: Words }) {
  const [open, setOpen] = useState(false);
  if (list.length === 0) return null;
  return (
    <Box component="section" aria-label="Not offered">
      <Button onClick={() => setOpen(!open)} aria-expanded={open} sx={{ ml: -2, color: "text.secondary" }}>
        {open ? "Hide what is not offered" : `Not offered, and why: ${list.length}`}
      </Button>
      {open &&
        list.map((r) => (
          <Typography key={r.check} variant="body2" sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
            <strong>{words.check(r.check)}.</strong> {r.reason}
          </Typography>
        ))}
    </Box>
  );
}
