import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Schemas } from "../../api/client";
import { useSaid } from "../../ui/quantity";
import type { Words } from "../../ui/words";

const row = 44;

/** The loop that the acid runs, made of this engine's own stations: tank, fused pump, feed, stations, return. */
export function LoopDrawing(p: { plan: Schemas["DescalePlan"]; bath?: Schemas["BathPlanned"]; words: Words }) {
  const { palette, water, typography } = useTheme();
  const { plan } = p;
  const said = useSaid();
  const n = plan.loop.length;
  const [width, top] = [360, 22];
  const height = top + Math.max(n, 2) * row + 96;
  const tankY = height - 78;
  const line = { fill: "none", stroke: water.raw, strokeWidth: 7, strokeLinejoin: "round" as const };
  const boxes = plan.loop.map((id, i) => ({ id, y: top + (n - 1 - i) * row }));
  const first = boxes[0];
  const last = boxes[n - 1];
  if (!first || !last) return null;
  const stations = plan.loop.map(p.words.station).join(", then ");
  const fuse = p.bath?.fuse_a ? `${p.bath.fuse_a} A fuse` : "fused, switched";
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography variant="h3" component="figcaption" sx={{ mb: 0.5 }}>
        The loop
      </Typography>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ width: "100%", maxWidth: 420, display: "block" }}
        role="img"
        aria-label={`From the tank by the pump into ${stations}, and back into the tank`}
        fontFamily={typography.fontFamily}
        fontSize={14}
      >
        <path d={`M 60 ${tankY + 46} H 24 V ${first.y + 16} H 96`} {...line} />
        <path d={`M 264 ${last.y + 16} H 336 V ${tankY + 10} H 250`} {...line} strokeDasharray="12 6" />
        {boxes.map((b) => (
          <g key={b.id}>
            <rect
              x={96}
              y={b.y}
              width={168}
              height={row - 10}
              fill={water.panel}
              stroke={palette.text.primary}
              strokeWidth={2}
            />
            <text x={180} y={b.y + 22} textAnchor="middle" fill={palette.text.primary} fontWeight={650}>
              {p.words.station(b.id)}
            </text>
          </g>
        ))}
        {boxes.slice(1).map((b) => (
          <path key={b.id} d={`M 180 ${b.y + row} v -10`} stroke={water.raw} strokeWidth={7} />
        ))}
        <rect x={60} y={tankY} width={240} height={64} fill="none" stroke={palette.text.primary} strokeWidth={3} />
        <path d={`M 62 ${tankY + 22} H 298`} stroke={water.raw} strokeWidth={2} strokeDasharray="4 4" />
        <text x={180} y={tankY + 16} textAnchor="middle" fill={palette.text.secondary}>
          tank, {said(plan.tank_l ?? 0, "L")}; bath {said(plan.bath_l, "L")}
        </text>
        <circle cx={86} cy={tankY + 46} r={13} fill={palette.text.primary} />
        <text x={106} y={tankY + 51} fill={palette.text.primary}>
          pump, {fuse}
        </text>
        <text x={30} y={first.y + 42} fill={palette.text.secondary}>
          feed
        </text>
        <text x={330} y={last.y + 42} textAnchor="end" fill={palette.text.secondary}>
          return
        </text>
      </svg>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        In at the lowest raw point, out before the elbow. The dashed hose runs back, its end above the level.
      </Typography>
    </Box>
  );
}
