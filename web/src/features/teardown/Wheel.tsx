import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { bladeArea, path, polar, sector } from "../../illustrations/geometry";
import { Stepper } from "../../ui/Stepper";
import { useUnkept } from "../../ui/unkept";
import { verdictWords, type Act, type Teardown } from "../../ui/job/teardown";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Blade = Schemas["Blade"];

const states: [string, Blade][] = [
  ["sound", { state: "sound" }],
  ["gone", { state: "gone" }],
  ["a quarter torn off", { state: "torn", share: 0.25 }],
  ["half torn off", { state: "torn", share: 0.5 }],
  ["most torn off", { state: "torn", share: 0.75 }],
  ["cracked", { state: "cracked" }],
  ["set", { state: "set" }],
];

const nameOf = (b: Blade) =>
  states.find(([, s]) => s.state === b.state && (b.state !== "torn" || s.share === b.share))?.[0] ??
  `${Math.round(100 * (b.share ?? 0))} % torn off`;

const fresh = (n: number): Blade[] => Array.from({ length: n }, () => ({ state: "sound" }));
const usualBlades = 8;

/** The impeller as it came out: a wheel whose blades are tapped. */
export function WheelBench({ job, hands, onAct }: { job: string; hands: Teardown; onAct: Act }) {
  const { wheel } = hands;
  const [draft, setDraft, forget] = useUnkept(job, "The impeller", {
    blades: wheel?.blades ?? fresh(usualBlades),
    hub: wheel?.hub_slips ?? false,
    scored: wheel?.scored ?? false,
    hours: String(wheel?.hours ?? ""),
    life: String(wheel?.life_hours ?? ""),
  });
  const { blades, hub, scored, hours, life } = draft;
  const change = (to: Partial<typeof draft>) => setDraft({ ...draft, ...to });
  const [chosen, setChosen] = useState<number>();
  const set = (b: Blade) => {
    if (chosen === undefined) return;
    change({ blades: blades.map((x, i) => (i === chosen ? b : x)) });
    setChosen((chosen + 1) % blades.length);
  };
  const number = (t: string) => Number(t.replace(",", ".")) || undefined;
  const keep = () => {
    onAct(
      { do: "wheel", wheel: { blades, hub_slips: hub, scored, hours: number(hours), life_hours: number(life) } },
      "Impeller saved",
    );
    forget();
  };
  return (
    <Box component="section" aria-label="Impeller">
      <Typography variant="h2">The impeller</Typography>
      <Stepper
        label="Blades"
        value={blades.length}
        unit=""
        most={16}
        onChange={(n) =>
          n >= 3 &&
          change({ blades: n > blades.length ? [...blades, ...fresh(n - blades.length)] : blades.slice(0, n) })
        }
      />
      <Drawing blades={blades} chosen={chosen} onChoose={setChosen} />
      <Choose blades={blades} chosen={chosen} onSet={set} />
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, mt: 1 }}>
        <ChoiceButton aria-pressed={hub} onClick={() => change({ hub: !hub })} data-on={hub}>
          Hub or key slips
        </ChoiceButton>
        <ChoiceButton aria-pressed={scored} onClick={() => change({ scored: !scored })} data-on={scored}>
          Face scored
        </ChoiceButton>
      </Stack>
      <Stack direction="row" sx={{ gap: 1, mt: 1.5 }}>
        <TextField
          label="Hours it has run"
          value={hours}
          onChange={(e) => change({ hours: e.target.value })}
          sx={field}
        />
        <TextField label="Maker's hours" value={life} onChange={(e) => change({ life: e.target.value })} sx={field} />
      </Stack>
      <Button variant="contained" fullWidth onClick={keep} sx={{ mt: 1.5, minHeight: 56 }}>
        Save the impeller
      </Button>
      {hands.wheel_verdict && (
        <Box sx={{ mt: 1.5 }}>
          <Typography sx={{ fontWeight: 750, fontSize: "1.15rem" }}>{verdictWords[hands.wheel_verdict]}</Typography>
          {hands.wheel_says.map((w) => (
            <Typography key={w}>{w.charAt(0).toUpperCase() + w.slice(1)}.</Typography>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Choose(p: { blades: Blade[]; chosen?: number; onSet: (b: Blade) => void }) {
  const { blades, chosen } = p;
  if (chosen === undefined) return <Typography sx={{ mb: 0.75 }}>Tap a blade.</Typography>;
  const is = nameOf(blades[chosen] ?? { state: "sound" });
  return (
    <>
      <Typography sx={{ mb: 0.75 }}>
        Blade {chosen + 1} is {is}. It is:
      </Typography>
      <Stack direction="row" role="group" aria-label={`Blade ${chosen + 1}`} sx={{ flexWrap: "wrap", gap: 0.75 }}>
        {states.map(([label, s]) => (
          <ChoiceButton key={label} onClick={() => p.onSet(s)} data-on={is === label}>
            {label}
          </ChoiceButton>
        ))}
      </Stack>
    </>
  );
}

const field = { flex: 1, bgcolor: "background.paper" };

function Drawing(p: { blades: Blade[]; chosen?: number; onChoose: (i: number) => void }) {
  const { palette, water } = useTheme();
  const n = p.blades.length;
  const [c, hub, tip] = [150, 44, 136];
  const half = Math.min(12.6, 92 / n);
  const on = (a: number, r: number) => polar(c, c, r, a);
  return (
    <svg viewBox="0 0 300 300" style={{ width: "100%", maxWidth: 300, display: "block", margin: "0 auto" }}>
      {p.blades.map((b, i) => {
        const a = (360 * i) / n;
        const out = b.state === "gone" ? tip : tip - (tip - hub) * (b.state === "torn" ? (b.share ?? 0) : 0);
        const lean = b.state === "set" ? 17 : 0;
        const chosen = p.chosen === i;
        const label = `Blade ${i + 1}: ${nameOf(b)}`;
        return (
          <g
            key={i}
            role="button"
            tabIndex={0}
            aria-label={label}
            aria-pressed={chosen}
            onClick={() => p.onChoose(i)}
            onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && p.onChoose(i)}
            style={{ cursor: "pointer" }}
          >
            <path d={sector(c, c, hub, tip, a - 180 / n, a + 180 / n)} fill="transparent" />
            <path
              d={bladeArea(c, c, hub, out, a, half, lean)}
              fill={b.state === "gone" ? "none" : b.state === "sound" ? water.dry : water.suspect}
              stroke={chosen ? water.found : palette.text.primary}
              strokeWidth={chosen ? 5 : 2}
              strokeDasharray={b.state === "gone" ? "6 5" : undefined}
            />
            {b.state === "cracked" && (
              <path
                d={path([
                  on(a - half, hub + 16),
                  on(a, hub + 26),
                  on(a + half * 0.3, hub + 14),
                  on(a + half, hub + 24),
                ])}
                fill="none"
                stroke={palette.background.paper}
                strokeWidth={3}
              />
            )}
          </g>
        );
      })}
      <circle cx={c} cy={c} r={hub} fill={palette.text.primary} />
      <rect x={c - 7} y={c - hub + 6} width={14} height={14} fill={palette.background.paper} />
      <circle cx={c} cy={c} r={18} fill={palette.background.paper} />
    </svg>
  );
}
