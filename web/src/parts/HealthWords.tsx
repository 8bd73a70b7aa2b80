import { Box, Typography } from "@mui/material";
import type { PlantHealth } from "../api/client";
import { Mind } from "./Mind";

/** What rounds of readings look like as a whole, in the trade's words. */
export const patternWords: Record<string, string> = {
  "raw-flow-low": "too little raw water",
  "exchanger-weak": "a weak exchanger",
  "coolant-flow-low": "too little coolant flow",
  "thermostat-late": "a thermostat that opens late or too little",
  "thermostat-open": "a thermostat that hangs open",
  "heat-high": "more heat than she should make",
  "gauge-off": "a gauge that reads wrong",
  "raw-water-lost": "raw water lost before the elbow",
};

const found = 20;
const leaning = 5;

/** What the readings say: the pattern, the figures with their errors, and what they cannot tell. */
export function HealthWords({ health }: { health: PlantHealth }) {
  const patterns = health.patterns.filter((p) => p.ratio >= leaning);
  const first = patterns[0];
  return (
    <Box component="section" aria-label="What the readings say">
      <Typography variant="h2">What the readings say</Typography>
      <Typography sx={{ fontSize: "1.15rem", fontWeight: 700, my: 0.5 }}>
        {first
          ? `${first.ratio >= found ? "They show" : "They lean to"} ${patternWords[first.id] ?? first.id}.`
          : "Nothing stands out from a healthy engine."}
      </Typography>
      {patterns.slice(1).map((p) => (
        <Typography key={p.id}>It could also be {patternWords[p.id] ?? p.id}.</Typography>
      ))}
      <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.5 }}>
        {health.words.map((w) => (
          <Typography component="li" key={w}>
            {w}
          </Typography>
        ))}
      </Box>
      {health.doubts.map((d) => (
        <Mind key={`${d.round}.${d.reading}`}>{d.say.charAt(0).toUpperCase() + d.say.slice(1)}</Mind>
      ))}
      {health.weak.length > 0 && (
        <Typography sx={{ color: "text.secondary", mt: 0.5 }}>
          These readings cannot show: {health.weak.map((w) => patternWords[w] ?? w).join(", ")}. Load, or a reading
          nearer to it, would.
        </Typography>
      )}
    </Box>
  );
}
