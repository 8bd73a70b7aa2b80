import { Box, Button, Dialog, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useEffect, useState } from "react";
import { useAwake, useBeep, useMuted } from "../../ui/alarm";

/** Common practice: water at the outlet by then, or the engine is stopped. */
export const primeWithin = 30;

/** What the person at the outlet says. */
export interface Primed {
  water: boolean;
  seconds: number;
  bubbles?: "seen" | "not-seen";
}

/**
 * The priming clock, over the whole screen: to be read from the outlet, with wet hands, in the sun. It says stop by a
 * sign, a word and a sound.
 */
export function PrimeClock({
  soap,
  onDone,
  onLeave,
}: {
  soap: boolean;
  onDone: (p: Primed) => void;
  onLeave: () => void;
}) {
  const { water } = useTheme();
  const [begun, setBegun] = useState<number>();
  const [seconds, setSeconds] = useState(0);
  const [muted, mute] = useMuted();
  const beep = useBeep(muted);
  useAwake();
  useEffect(() => {
    if (begun === undefined) return;
    const timer = setInterval(() => setSeconds((performance.now() - begun) / 1000), 100);
    return () => clearInterval(timer);
  }, [begun]);
  const whole = Math.floor(seconds);
  const late = seconds >= primeWithin;
  useEffect(() => {
    if (begun === undefined || whole === 0) return;
    if (whole >= primeWithin) beep(true);
    else if (whole >= primeWithin - 5 || whole % 10 === 0) beep(false);
  }, [whole, begun, beep]);
  const done = (p: Omit<Primed, "seconds">) => onDone({ ...p, seconds: Math.round(seconds * 10) / 10 });
  const left = Math.max(0, Math.ceil(primeWithin - seconds));
  return (
    <Dialog
      fullScreen
      open
      onClose={onLeave}
      slotProps={{
        paper: {
          "aria-label": "Priming clock",
          sx: { bgcolor: late ? water.found : water.next, color: late ? water.panel : water.nextInk },
        },
      }}
    >
      <Stack sx={{ height: "100%", p: 2, gap: 2, textAlign: "center" }}>
        <Stack direction="row" sx={{ justifyContent: "space-between" }}>
          <Button color="inherit" onClick={onLeave}>
            ← Back
          </Button>
          <Button color="inherit" onClick={mute} aria-pressed={muted}>
            {muted ? "Sound is off" : "Sound is on"}
          </Button>
        </Stack>
        <Box sx={{ my: "auto" }}>
          <Sign late={late} share={Math.min(1, seconds / primeWithin)} />
          <Typography role="timer" sx={{ fontSize: "clamp(5rem, 28vmin, 14rem)", fontWeight: 800, lineHeight: 1 }}>
            {begun === undefined ? primeWithin : late ? whole : left}
          </Typography>
          <Typography role="status" sx={{ fontSize: "clamp(1.6rem, 7vmin, 3rem)", fontWeight: 800, lineHeight: 1.1 }}>
            {begun === undefined ? "Ready?" : late ? "STOP THE ENGINE" : "Water at the outlet?"}
          </Typography>
          <Typography sx={{ fontSize: "1.1rem", mt: 1 }}>
            {begun === undefined
              ? "Press as it starts, about 1000 rev/min. Somebody looks at the outlet."
              : late
                ? "No water within 30 seconds: the impeller runs dry."
                : "seconds left"}
          </Typography>
        </Box>
        {begun === undefined ? (
          <Button variant="contained" onClick={() => setBegun(performance.now())} sx={{ ...big, ...inverse(water) }}>
            Engine running
          </Button>
        ) : (
          <Stack sx={{ gap: 1.5 }}>
            {soap ? (
              <Stack direction="row" sx={{ gap: 1.5 }}>
                <Button
                  onClick={() => done({ water: true, bubbles: "seen" })}
                  sx={{ ...big, ...inverse(water), flex: 1 }}
                >
                  Water, with bubbles
                </Button>
                <Button
                  onClick={() => done({ water: true, bubbles: "not-seen" })}
                  sx={{ ...big, ...inverse(water), flex: 1 }}
                >
                  Water, no bubbles
                </Button>
              </Stack>
            ) : (
              <Button onClick={() => done({ water: true })} sx={{ ...big, ...inverse(water) }}>
                Water is there
              </Button>
            )}
            <Button
              color="inherit"
              variant="outlined"
              onClick={() => done({ water: false })}
              sx={{ ...big, borderWidth: 3, borderColor: "currentColor" }}
            >
              No water, engine stopped
            </Button>
          </Stack>
        )}
      </Stack>
    </Dialog>
  );
}

const big = { minHeight: 84, fontSize: "1.35rem", fontWeight: 800 };

const inverse = (water: { panel: string; pipeEdge: string; raw: string }) => ({
  bgcolor: "#ffffff",
  color: "#08191f",
  "&:hover": { bgcolor: "#ffffff" },
  "&.Mui-focusVisible": { outline: `4px solid ${water.raw}` },
});

/** Water that rises in a pipe while there is time; a crossed drop when there is none left. */
function Sign({ late, share }: { late: boolean; share: number }) {
  return (
    <svg viewBox="0 0 120 70" style={{ height: "18vmin", minHeight: 80 }} aria-hidden="true">
      {late ? (
        <g fill="none" stroke="currentColor" strokeWidth="7" strokeLinecap="round">
          <path d="M60 8 C 44 30 42 40 42 46 a 18 18 0 0 0 36 0 c 0 -6 -2 -16 -18 -38 Z" />
          <path d="M28 8 L92 64 M92 8 L28 64" />
        </g>
      ) : (
        <g>
          <rect x="8" y="24" width="104" height="26" fill="none" stroke="currentColor" strokeWidth="5" />
          <rect x="12" y="28" width={96 * (1 - share)} height="18" fill="currentColor" />
        </g>
      )}
    </svg>
  );
}
