import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Catalogue, JobPage } from "../api/client";
import { sidesOf } from "./engine/circuit";

interface Props {
  catalogue: Catalogue;
  engine: Pick<JobPage["engine"], "family" | "circuit">;
  station: string;
}

const [step, left, rawY, loopY] = [20, 12, 13, 31] as const;

/** Where a station lies on this engine's own circuit: the way from the sea to the outlet, the place lit. */
export function Where({ catalogue, engine, station }: Props) {
  const { water, palette } = useTheme();
  const facts = new Map(catalogue.stations.map((s) => [s.id, s]));
  const first = (id: string) => {
    const s = facts.get(id);
    return s && sidesOf(s, engine.family)[0];
  };
  const raw = engine.circuit.filter((id) => first(id) === "raw");
  const loop = engine.circuit.filter((id) => first(id) === "coolant");
  const at = raw.indexOf(station);
  const loopAt = loop.indexOf(station);
  if (at < 0 && loopAt < 0) return null;
  const joint = Math.max(0, raw.indexOf("exchanger"));
  const loopFrom = left + step * Math.max(0, Math.min(joint - 1, raw.length - loop.length));
  const x = (i: number) => left + step * i;
  const wide = Math.max(x(raw.length - 1), loopFrom + step * (loop.length - 1)) + left;
  const high = loop.length > 0 ? 44 : 26;
  const lit = at >= 0 ? { x: x(at), y: rawY } : { x: loopFrom + step * loopAt, y: loopY };
  const dots = [
    ...raw.map((id, i) => ({ id, x: x(i), y: rawY })),
    ...loop.map((id, i) => ({ id, x: loopFrom + step * i, y: loopY })),
  ];
  return (
    <Box sx={{ minWidth: 0 }}>
      <svg
        viewBox={`0 0 ${wide} ${high}`}
        style={{ width: "100%", maxWidth: 1.3 * wide, display: "block" }}
        role="img"
        aria-label={`Where: ${facts.get(station)?.label ?? station}`}
      >
        <path d={`M2 ${rawY} H${x(raw.length - 1) + 8}`} stroke={water.raw} strokeWidth="5" strokeLinecap="round" />
        {loop.length > 0 && (
          <>
            <path
              d={`M${loopFrom} ${loopY} H${loopFrom + step * (loop.length - 1)}`}
              stroke={water.coolant}
              strokeWidth="5"
              strokeDasharray="7 3"
            />
            <path d={`M${x(joint)} ${rawY} V${loopY}`} stroke={water.coolant} strokeWidth="2.5" />
          </>
        )}
        {dots.map((p) => (
          <circle
            key={p.id}
            cx={p.x}
            cy={p.y}
            r="4"
            fill={palette.background.paper}
            stroke={palette.text.primary}
            strokeWidth="1.8"
          />
        ))}
        <path
          d={
            `M${lit.x - 9} ${lit.y} a9 9 0 1 0 18 0 a9 9 0 1 0 -18 0 ` +
            `M${lit.x} ${lit.y - 12} v5 M${lit.x} ${lit.y + 7} v5`
          }
          fill="none"
          stroke={water.found}
          strokeWidth="3"
        />
        <circle cx={lit.x} cy={lit.y} r="5" fill={palette.text.primary} />
      </svg>
      <Typography variant="body2" aria-hidden="true" sx={{ color: "text.secondary", lineHeight: 1.2 }}>
        Where it is: {facts.get(station)?.label}
      </Typography>
    </Box>
  );
}
