import { Box } from "@mui/material";
import type { KeyboardEvent } from "react";

interface Props {
  /** What it reads, for those who do not see it. */
  name: string;
  range: [number, number];
  at?: number;
  onAt: (at: number | undefined) => void;
  /** What stands at a place, in words. */
  read: (at: number) => string;
  /** How far an arrow key goes; left out: a fortieth of the range. */
  step?: number;
}

/** Under a chart: what it says at the place that was touched, or that the arrow keys went to. */
export function ReadOut({ name, range: [from, to], at, onAt, read, step = (to - from) / 40 }: Props) {
  const go = (e: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowUp: -1, ArrowDown: 1 }[e.key];
    if (e.key === "Escape") onAt(undefined);
    if (!by) return;
    e.preventDefault();
    const middle = from + step * Math.round((to - from) / 2 / step);
    onAt(at === undefined ? middle : Math.min(to, Math.max(from, at + by * step)));
  };
  return (
    <Box
      role="slider"
      tabIndex={0}
      aria-label={`Read the chart: ${name}`}
      aria-valuemin={from}
      aria-valuemax={to}
      aria-valuenow={at ?? from}
      aria-valuetext={at === undefined ? "Arrow keys move along it" : read(at)}
      onKeyDown={go}
      sx={{
        borderTop: 1,
        borderColor: "divider",
        py: 0.5,
        minHeight: 28,
        fontSize: "0.92rem",
        "@media print": { display: "none" },
      }}
    >
      {at === undefined ? "Touch the chart, or the arrow keys here: what it says at each place" : read(at)}
    </Box>
  );
}
