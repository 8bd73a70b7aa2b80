import { Box, Button, Typography } from "@mui/material";
import { useState } from "react";
import type { PlantHealth, Schemas, UnitSystem } from "../../api/client";
import { healthWords, leaning, patternWords, comparisonWords, nextReadingWords } from "./health";
import { Attention } from "../Attention";
import type { Units } from "../units";
import { lower, type Words } from "../words";

/** What the readings come to, in a sentence. */
function headline(health: PlantHealth) {
  if (health.unsettled.length > 0 && health.figures.length === 0)
    return "Not judged: it may have been warming up still.";
  const first = health.patterns.find((x) => x.ratio >= leaning);
  if (!first) return "Nothing stands out from a healthy engine.";
  return `${first.ratio >= health.says_found ? "They show" : "They lean to"} ${patternWords[first.id] ?? first.id}.`;
}

/** Faults that may be there all the same: they hardly show at the speeds that were read. */
function Hidden({ faults, words }: { faults: string[]; words: Words }) {
  const [open, setOpen] = useState(false);
  if (faults.length === 0) return null;
  return (
    <Box sx={{ mt: 0.5 }}>
      <Button onClick={() => setOpen(!open)} aria-expanded={open} sx={{ ml: -2, color: "text.secondary" }}>
        {open ? "Hide what hardly shows here" : `May be there, and hardly shows in these readings: ${faults.length}`}
      </Button>
      {open && <Typography>{faults.map((f) => lower(words.fault(f))).join(", ")}.</Typography>}
    </Box>
  );
}

/** What the readings say: the pattern, the figures with their errors, what they cannot tell, and what to read next. */
export function HealthWords(p: {
  health: PlantHealth;
  standard: Schemas["PlantComparison"];
  rpm?: number;
  words: Words;
  units: Units;
  system: UnitSystem;
}) {
  const { health, words } = p;
  const patterns = health.patterns.filter((x) => x.ratio >= leaning);
  return (
    <Box component="section" aria-label="What the readings say">
      <Typography variant="h2">What the readings say</Typography>
      <Typography sx={{ fontSize: "1.15rem", fontWeight: 700, my: 0.5 }}>{headline(health)}</Typography>
      {health.unsettled.map((u) => (
        <Attention key={u.round}>{u.say}</Attention>
      ))}
      {patterns.slice(1).map((x) => (
        <Typography key={x.id}>It could also be {patternWords[x.id] ?? x.id}.</Typography>
      ))}
      <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.5 }}>
        {healthWords(health.figures, p.units, p.system).map((w) => (
          <Typography component="li" key={w}>
            {w}
          </Typography>
        ))}
      </Box>
      {health.doubts.map((d) => (
        <Attention key={`${d.round}.${d.reading}`}>{d.say.charAt(0).toUpperCase() + d.say.slice(1)}</Attention>
      ))}
      {health.next.length > 0 && (
        <Box sx={{ mt: 1 }}>
          <Typography variant="h3" component="h2">
            What would tell most now
          </Typography>
          <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
            {health.next.map((t) => (
              <Typography component="li" key={`${t.rpm}${t.station}${t.side ?? ""}`}>
                {nextReadingWords(t, p.rpm, words)}
              </Typography>
            ))}
          </Box>
        </Box>
      )}
      {health.weak.length > 0 && (
        <Typography sx={{ color: "text.secondary", mt: 0.75 }}>
          These readings cannot show: {health.weak.map((w) => patternWords[w] ?? w).join(", ")}.
        </Typography>
      )}
      <Hidden faults={health.hidden} words={words} />
      <Typography sx={{ color: "text.secondary", mt: 0.75 }}>{comparisonWords(p.standard)}</Typography>
    </Box>
  );
}
