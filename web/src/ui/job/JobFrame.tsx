import { Box, Button, Dialog, DialogContent, Stack, useMediaQuery } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState, type ReactNode } from "react";
import { Link, useNavigate } from "react-router";
import type { Catalogue, JobPage } from "../../api/client";
import { Banner } from "./JobBanner";
import { Water } from "./Water";
import { ChoiceButton } from "../ChoiceButton";
import { belowLines } from "../stuck";

interface Props {
  page: JobPage;
  catalogue: Catalogue;
  children: ReactNode;
}

/**
 * Every screen of a job beside the hunt itself: its steps, the engine's state, the water at the left of a desk or one
 * touch away on a phone, and the way back.
 */
export function JobFrame({ page, catalogue, children }: Props) {
  const wide = useMediaQuery(useTheme().breakpoints.up("lg"));
  const [open, setOpen] = useState(false);
  const go = useNavigate();
  const job = `/jobs/${page.card.id}`;
  const water = (
    <Water {...{ catalogue, page }} onChoose={(station) => void go(`${job}?pane=next&station=${station}`)} />
  );
  return (
    <Box component="main" sx={{ pb: 10, "@media print": { pb: 0 } }}>
      <Box sx={inSight}>
        <Banner page={page} />
      </Box>
      <Box sx={columns}>
        {wide && <Box sx={{ ...side, ...notOnPaper }}>{water}</Box>}
        <Box sx={{ minWidth: 0 }}>
          <Stack direction="row" sx={{ alignItems: "center", gap: 1, ...notOnPaper }}>
            <Button component={Link} to={job} sx={{ px: 0, mr: "auto" }}>
              ← {page.craft.name}, {page.engine.name}
            </Button>
            {!wide && (
              <ChoiceButton onClick={() => setOpen(true)} sx={{ flex: "none" }}>
                Water
              </ChoiceButton>
            )}
          </Stack>
          {children}
        </Box>
      </Box>
      {open && (
        <Dialog open fullScreen onClose={() => setOpen(false)} slotProps={{ paper: { "aria-label": "The water" } }}>
          <DialogContent sx={{ px: 1.5 }}>
            <Button variant="contained" onClick={() => setOpen(false)} sx={{ mb: 1 }}>
              Back to the work
            </Button>
            {water}
          </DialogContent>
        </Dialog>
      )}
    </Box>
  );
}

const notOnPaper = { "@media print": { display: "none" } } as const;

/** No box of its own: what is shut or off stays in sight as far as the whole screen goes. */
const inSight = { display: "contents", ...notOnPaper } as const;

const columns = {
  display: "grid",
  gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "384px minmax(0, 1fr)" },
  columnGap: 3,
  alignItems: "start",
  maxWidth: 1680,
  mx: "auto",
  px: { xs: 1.5, md: 2.5 },
  pt: 1,
  "@media print": { display: "block", p: 0 },
} as const;

const side = {
  bgcolor: "background.paper",
  borderRadius: 1,
  px: 1.5,
  pb: 1,
  position: "sticky",
  top: belowLines,
  maxHeight: `calc(100vh - 12px - ${belowLines})`,
  overflowY: "auto",
} as const;
