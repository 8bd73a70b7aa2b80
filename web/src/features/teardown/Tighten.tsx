import { Box, Button, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useRef } from "react";
import { passes, type Act, type TeardownItem } from "../../ui/job/teardown";

/** The fasteners as they stand, each with its turn in the order, and the pass that comes next. */
export function Tighten({ item, onAct }: { item: TeardownItem; onAct?: Act }) {
  const { palette, water } = useTheme();
  const sent = useRef(0);
  const { order, places } = item;
  if (!order || !places) return null;
  const turn = (i: number) => order.indexOf(i + 1) + 1;
  const at = (v: number, half: number) => half + v * (half - 26);
  const tall = item.item.shape === "rectangle" ? 200 : 260;
  const next = passes[item.pass];
  return (
    <Box component="figure" sx={{ m: 0 }} aria-label={`Order of tightening: ${item.item.label}`}>
      <svg
        viewBox={`0 0 260 ${tall}`}
        style={{ width: "100%", maxWidth: 280, display: "block" }}
        role="img"
        aria-label={`In this order: ${order.join(", ")}`}
      >
        <path
          d={order
            .map((n, i) => {
              const p = places[n - 1];
              const stretched = item.item.shape === "rectangle" ? 1.4 : 1;
              return `${i ? "L" : "M"} ${at(p?.x ?? 0, 130)} ${at((p?.y ?? 0) * stretched, tall / 2)}`;
            })
            .join(" ")}
          fill="none"
          stroke={palette.divider}
          strokeWidth={2}
        />
        {places.map((p, i) => {
          const [x, y] = [at(p.x, 130), at(item.item.shape === "rectangle" ? p.y * 1.4 : p.y, tall / 2)];
          return (
            <g key={i}>
              <path
                d={hexagon(x, y, places.length > 14 ? 13 : 19)}
                fill={water.panel}
                stroke={palette.text.primary}
                strokeWidth={2.5}
              />
              <text
                x={x}
                y={y + 6}
                textAnchor="middle"
                fontSize={places.length > 14 ? 13 : 18}
                fontWeight={750}
                fill={palette.text.primary}
              >
                {turn(i)}
              </text>
            </g>
          );
        })}
      </svg>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        {item.item.torque_nm ? `${item.item.torque_nm} Nm. ` : "No figure: firm, the ratchet held short. "}
        {item.item.left_hand && "Left-hand thread. "}
        {item.item.thread_lock && "Thread lock. "}
      </Typography>
      {onAct && (
        <Stack direction="row" sx={{ alignItems: "center", gap: 1, mt: 0.5 }}>
          <Typography sx={{ fontWeight: 650, mr: "auto" }}>
            {next ? `Pass ${item.pass + 1} of ${passes.length}: ${next}` : "All passes done"}
          </Typography>
          {next && (
            <Button
              variant="contained"
              onClick={() => {
                // a second touch before the first is drawn is the next pass, not the same again
                const pass = Math.max(item.pass, sent.current) + 1;
                if (pass > passes.length) return;
                sent.current = pass;
                onAct({ do: "tighten", item: item.key, pass }, `${item.item.label}: ${passes[pass - 1] ?? ""}`);
              }}
            >
              Pass done
            </Button>
          )}
        </Stack>
      )}
    </Box>
  );
}

const hexagon = (x: number, y: number, r: number) =>
  `M ${Array.from({ length: 6 }, (_, i) => {
    const a = (Math.PI / 3) * i;
    return `${x + r * Math.cos(a)} ${y + r * Math.sin(a)}`;
  }).join(" L ")} Z`;
