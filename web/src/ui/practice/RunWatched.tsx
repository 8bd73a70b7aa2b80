import { Box, Button, Typography } from "@mui/material";
import { useEffect, useState } from "react";
import type { Picture } from "../../api/client";
import { Chart } from "../chart/Chart";
import { useSystem } from "../unitSystem";
import { clockTime, shown, type Units } from "../units";

/** How long a run is watched, and how often it is drawn afresh then, ms. */
const watchedFor = 9000;
const every = 180;

/** Nothing moves for who asked for stillness. */
const still = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/** A run as the gateway's probes tell it: watched as it goes, many times faster; all of it at once at a touch. */
export function RunWatched({ pictures, units }: { pictures: Picture[]; units: Units }) {
  const system = useSystem();
  const end = Math.max(0, ...pictures.flatMap((p) => p.lines.flatMap((l) => l.x.slice(-1))));
  const [at, setAt] = useState(still() ? end : 0);
  const goes = at < end;
  useEffect(() => {
    if (!goes) return;
    const timer = setInterval(() => setAt((was) => Math.min(end, was + (end * every) / watchedFor)), every);
    return () => clearInterval(timer);
  }, [goes, end]);
  if (pictures.length === 0) return null;
  return (
    <Box role="group" aria-label="What the gateway tells" sx={{ my: 1 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", columnGap: 2, minHeight: 48 }}>
        <Typography sx={{ fontSize: "1.15rem", fontWeight: 700, fontVariantNumeric: "tabular-nums", mr: "auto" }}>
          {clockTime(at)} min
          {pictures.flatMap((p) =>
            p.lines.map((l) => `, ${l.label.toLowerCase()} ${shown(units, system, valueThen(l, at), p.y.unit)}`),
          )}
        </Typography>
        {goes ? (
          <Button onClick={() => setAt(end)}>Show all of it</Button>
        ) : (
          <Button onClick={() => setAt(0)}>Watch it once more</Button>
        )}
      </Box>
      <Box sx={{ display: "grid", gap: 2, gridTemplateColumns: { md: "1fr 1fr" } }}>
        {pictures.map((p) => (
          <Chart key={p.title} picture={p} units={units} system={system} until={at} />
        ))}
      </Box>
    </Box>
  );
}

/** The last value of a line up to a moment. */
function valueThen(l: Picture["lines"][number], at: number): number {
  return l.y[Math.max(0, l.x.filter((x) => x <= at).length - 1)] ?? 0;
}
