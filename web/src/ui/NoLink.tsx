import { Typography } from "@mui/material";
import { useSyncExternalStore } from "react";
import { link } from "../api/link";
import { when } from "./words";

/** While the program is not reached: from when what stands here is, and what becomes of what is tapped. */
export function NoLink() {
  const down = useSyncExternalStore(link.subscribe, link.down);
  if (!down) return null;
  const last = link.reached();
  return (
    <Typography
      role="status"
      aria-label="No link"
      sx={{ bgcolor: "text.primary", color: "background.paper", px: { xs: 1.5, md: 2.5 }, py: 0.5, lineHeight: 1.3 }}
    >
      <strong>No link.</strong> {last > 0 ? `As it stood ${when(new Date(last).toISOString())}. ` : ""}
      What you tap is kept, and sent once there is one.
    </Typography>
  );
}
