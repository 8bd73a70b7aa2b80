import { useTheme } from "@mui/material/styles";
import type { StationState } from "./stations";

/** The state of a station as a shape, so that nothing hangs on colour: a flange, a tick, a wedge, a star burst. */
export function StateShape({ state, open, size = 26 }: { state: StationState; open?: boolean; size?: number }) {
  const { water, palette } = useTheme();
  const fill = { untouched: water.panel, clear: water.clear, suspect: water.suspect, found: water.found }[state];
  const ink = state === "untouched" ? palette.text.primary : palette.mode === "light" ? "#fff" : "#08191f";
  return (
    <svg
      width={size}
      height={size}
      viewBox="-13 -13 26 26"
      aria-hidden="true"
      style={{ display: "block", flex: "none" }}
    >
      {state === "found" ? (
        <path d={burst} fill={fill} stroke={water.pipeEdge} strokeWidth="1.5" />
      ) : state === "suspect" ? (
        <path
          d="M-12 -8 H12 L4 11 H-4 Z"
          fill={fill}
          stroke={water.pipeEdge}
          strokeWidth="1.5"
          strokeLinejoin="round"
        />
      ) : state === "clear" ? (
        <rect x="-10" y="-10" width="20" height="20" rx="10" fill={fill} stroke={water.pipeEdge} strokeWidth="1.5" />
      ) : (
        <rect
          x="-10"
          y="-6"
          width="20"
          height="12"
          rx="1.5"
          fill={fill}
          stroke={palette.text.primary}
          strokeWidth="1.8"
        />
      )}
      {state === "clear" && <path d="M-5 0 L-1.5 4 L5.5 -4" fill="none" stroke={ink} strokeWidth="2.6" />}
      {state === "suspect" && (
        <path
          d="M-3 -4.5 q0 -2.4 3 -2.4 t3 2.6 q0 2 -3 3 V0.6 M0 3.4 V5.6"
          fill="none"
          stroke={ink}
          strokeWidth="2.1"
        />
      )}
      {state === "found" && <path d="M0 -5.5 V1.5 M0 4.2 V6.4" stroke={ink} strokeWidth="3" />}
      {open && <path d="M-13 12 L-6 5 M13 12 L6 5" stroke={palette.text.primary} strokeWidth="2.6" />}
    </svg>
  );
}

const burst = Array.from({ length: 20 }, (_, i) => {
  const r = i % 2 ? 9 : 12.5;
  const a = (i / 20) * 2 * Math.PI;
  return `${i ? "L" : "M"}${(r * Math.sin(a)).toFixed(2)} ${(-r * Math.cos(a)).toFixed(2)}`;
})
  .join(" ")
  .concat("Z");
