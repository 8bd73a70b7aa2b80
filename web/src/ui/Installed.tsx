import { Button, Typography } from "@mui/material";
import { useEffect, useRef, useSyncExternalStore } from "react";
import { useLocation, useNavigate } from "react-router";
import { install, newer } from "../api/installed";

/** Keeps the program on the device, and offers a newer one where no job is in hand. */
export function Installed() {
  const go = useNavigate();
  const { pathname } = useLocation();
  const to = useRef(go); // it is another on each page
  useEffect(() => {
    to.current = go;
  }, [go]);
  useEffect(() => install((path) => void to.current(path)), []);
  const waits = useSyncExternalStore(newer.subscribe, newer.snapshot);
  if (!waits || pathname.startsWith("/jobs/")) return null;
  return (
    <Typography role="status" sx={{ bgcolor: "background.paper", px: { xs: 1.5, md: 2.5 }, py: 0.5 }}>
      A newer Hevrin is here. <Button onClick={newer.take}>Load it</Button>
    </Typography>
  );
}
