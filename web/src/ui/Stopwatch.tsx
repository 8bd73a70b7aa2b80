import { Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";

/** A stopwatch with one large button; stopping it writes the time down. */
export function Stopwatch({ onTime }: { onTime: (seconds: number) => void }) {
  const [since, setSince] = useState<number>();
  const [now, setNow] = useState(0);
  const frame = useRef(0);
  useEffect(() => {
    if (since === undefined) return;
    const tick = () => {
      setNow(performance.now());
      frame.current = requestAnimationFrame(tick);
    };
    tick();
    return () => cancelAnimationFrame(frame.current);
  }, [since]);
  const seconds = since === undefined ? 0 : Math.max(0, now - since) / 1000;
  const press = () => {
    if (since === undefined) {
      setSince(performance.now());
      return;
    }
    onTime((performance.now() - since) / 1000);
    setSince(undefined);
  };
  return (
    <Button
      fullWidth
      variant={since === undefined ? "outlined" : "contained"}
      onClick={press}
      sx={{
        mt: 1,
        minHeight: 64,
        fontSize: "1.15rem",
        ...(since === undefined ? { borderColor: "text.primary", color: "text.primary" } : {}),
        "@media print": { display: "none" },
      }}
    >
      {since === undefined ? "Start the stopwatch" : `Full: stop at ${seconds.toFixed(1)} s`}
    </Button>
  );
}
