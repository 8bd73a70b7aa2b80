import { useTheme } from "@mui/material/styles";
import type { DueState } from "./maintenance";

/** How pressing something is, by shape: a full glass turned over, one running out, one just turned, an empty frame. */
export function DueMark({ state, size = 28 }: { state: DueState; size?: number }) {
  const { water, palette } = useTheme();
  const ink = palette.text.primary;
  const sand = { overdue: water.found, soon: water.suspect, later: water.clear, unknown: "none" }[state];
  const below = { overdue: 1, soon: 0.6, later: 0.2, unknown: 0 }[state];
  return (
    <svg
      width={size}
      height={size}
      viewBox="-14 -14 28 28"
      aria-hidden="true"
      style={{ display: "block", flex: "none" }}
    >
      {state !== "unknown" && (
        <>
          <path d={`M ${-8 * below} 12 H ${8 * below} L 0 ${12 - 11 * below} Z`} fill={sand} />
          <path d={`M ${-7 * (1 - below)} ${-11 + 10 * below} H ${7 * (1 - below)} L 0 -1 Z`} fill={sand} />
        </>
      )}
      <path
        d="M -10 -12 H 10 M -10 12 H 10 M -8 -12 L 0 0 L -8 12 M 8 -12 L 0 0 L 8 12"
        fill="none"
        stroke={ink}
        strokeWidth="2.4"
        strokeLinecap="round"
        strokeDasharray={state === "unknown" ? "2 4" : undefined}
      />
    </svg>
  );
}
