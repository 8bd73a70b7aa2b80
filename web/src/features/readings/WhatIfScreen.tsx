import { Alert, Box, Button, MenuItem, Slider, Stack, TextField, Typography } from "@mui/material";
import { hasCoolant } from "../../ui/engine/circuit";
import { useTheme } from "@mui/material/styles";
import { useDeferredValue, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { Refused, type Catalogue, type Schemas, type UnitSystem } from "../../api/client";
import { useCatalogue, useEngine, useLimits, useCalculators, useTypes } from "../../api/queries";
import { OnTheEngine } from "./OnTheEngine";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";
import { askedOf } from "../../ui/readings/question";
import { JobBanner } from "../../ui/job/JobBanner";
import { Chart } from "../../ui/chart/Chart";
import { comparisonWords } from "../../ui/readings/health";
import { Loaded } from "../../ui/Loaded";
import { useSystem } from "../../ui/unitSystem";
import { clockTime, shown, unitsOf, type Units } from "../../ui/units";
import { wordsOf, type Words } from "../../ui/words";
import { useTitle } from "../../ui/title";
import { ChoiceButton } from "../../ui/ChoiceButton";
import { belowState } from "../../ui/stuck";

/** What would overheat it: speed, sea, load and faults to slide, and what is left before the alarm. */
export function WhatIfScreen() {
  useTitle("What would overheat it?");
  const { id = "" } = useParams();
  const engine = useEngine(id);
  const catalogue = useCatalogue();
  const sums = useCalculators();
  const types = useTypes();
  return (
    <Loaded query={catalogue}>
      {(c) => (
        <Loaded query={sums}>
          {(s) => (
            <Loaded query={types}>
              {(t) => (
                <Loaded query={engine}>
                  {(page) => <WhatIf catalogue={c} page={page} units={unitsOf(s.units)} physical={t.faults} />}
                </Loaded>
              )}
            </Loaded>
          )}
        </Loaded>
      )}
    </Loaded>
  );
}

interface Case {
  rpm: number;
  seaC: number;
  load: number;
  outOfGear: boolean;
  /** Left out: its own, or what is usual for its type. */
  alarmC?: number;
  faults: Schemas["PhysicalFault"][];
}

/** Half as bad as it gets: where a fault starts when it is put on. */
const middling = 0.5;

function useCase(engine: Schemas["Engine"], physical: string[]) {
  const [asked] = useSearchParams();
  const number = (key: string, other: number) => Number(asked.get(key)) || other;
  return useState<Case>(() => ({
    rpm: Math.min(number("rpm", 50 * Math.round((0.9 * engine.rated_rpm) / 50)), 1.1 * engine.rated_rpm),
    seaC: number("sea", 18),
    load: 1,
    outOfGear: false,
    faults: asked
      .getAll("fault")
      .filter((f) => physical.includes(f))
      .map((id) => ({ id, severity: middling })),
  }));
}

function WhatIf(p: { catalogue: Catalogue; page: Schemas["EnginePage"]; units: Units; physical: string[] }) {
  const { catalogue, page, units } = p;
  const { engine, craft } = page;
  const [params] = useSearchParams();
  const system = useSystem();
  const words = wordsOf(catalogue);
  const [at, setAt] = useCase(engine, p.physical);
  const set = (c: Partial<Case>) => setAt((was) => ({ ...was, ...c }));
  const question = useMemo(
    () => ({
      engine: askedOf(engine),
      operation: { rpm: at.rpm, sea_c: at.seaC, load: at.load, ...(at.outOfGear && { out_of_gear: true }) },
      faults: at.faults,
      ...(at.alarmC !== undefined && { alarm_c: at.alarmC }),
    }),
    [engine, at],
  );
  const limits = useLimits(useDeferredValue(question));
  const known = limits.isError ? undefined : limits.data;
  const faults = useMemo(() => at.faults.map((f) => f.id), [at.faults]);
  const job = params.get("job");
  const home = job ? `/jobs/${job}` : `/engines/${engine.id}`;
  return (
    <Box component="main" sx={{ maxWidth: 1240, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2, pb: 8 }}>
      {job && <JobBanner job={job} />}
      <Button component={Link} to={home} sx={{ px: 0 }}>
        ← {craft.name}, {engine.name}
      </Button>
      <Typography variant="h1">What would overheat it?</Typography>
      <Typography sx={{ color: "text.secondary" }}>
        {comparisonWords({ kind: engine.baseline ? "baseline" : "type", at: engine.baseline?.at, rounds: [] })}
      </Typography>
      {known && <Headline limits={known} units={units} system={system} />}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) minmax(0, 1.1fr)" },
          gap: { xs: 2, md: 4 },
          mt: 2,
          alignItems: "start",
        }}
      >
        <Stack sx={{ gap: 2, minWidth: 0 }}>
          <Sliders limits={known} {...{ at, set, engine, units, system, words, physical: p.physical, catalogue }} />
          {known && <OnTheEngine {...{ catalogue, engine, faults }} limits={known} />}
        </Stack>
        <Box sx={{ minWidth: 0 }}>
          {limits.error instanceof Refused && (
            <Alert severity="error">{limits.error.problem.errors?.[0]?.say ?? limits.error.message}</Alert>
          )}
          {known && <Answer limits={known} at={at} units={units} system={system} />}
        </Box>
      </Box>
    </Box>
  );
}

/** The one thing: over or below the alarm. It stays in view while one slides. */
function Headline(p: { limits: Schemas["PlantLimits"]; units: Units; system: UnitSystem }) {
  const { limits: l } = p;
  const { water } = useTheme();
  const over = l.is.boils || l.margin_k <= 0;
  const margin = shown(p.units, p.system, Math.abs(l.margin_k), "K");
  const headline = l.is.boils ? "It boils" : `${margin} ${over ? "above" : "below"} the alarm`;
  return (
    <Box
      sx={{
        position: "sticky",
        top: { xs: belowState, md: 0 },
        zIndex: 3,
        mt: 1.5,
        mx: { xs: -1.5, md: 0 },
        px: { xs: 1.5, md: 2 },
        py: 1.25,
        bgcolor: "background.paper",
        borderBottom: 3,
        borderColor: over ? "error.main" : "text.primary",
      }}
    >
      <Stack direction="row" sx={{ alignItems: "center", gap: 1.5 }}>
        <svg width="30" height="30" aria-hidden="true">
          {over ? (
            <path d="M 15 1 l 14 14 l -14 14 l -14 -14 z" fill={water.found} />
          ) : (
            <circle cx="15" cy="15" r="13" fill={water.clear} />
          )}
        </svg>
        <Typography role="status" sx={{ fontSize: "1.6rem", fontWeight: 750, lineHeight: 1.1 }}>
          {headline}
        </Typography>
      </Stack>
    </Box>
  );
}

function Answer(p: { limits: Schemas["PlantLimits"]; at: Case; units: Units; system: UnitSystem }) {
  const { limits: l, units, system } = p;
  const text = (v: number, unit: string) => shown(units, system, v, unit);
  const over = l.is.boils || l.margin_k <= 0;
  const spare = (share: number) => (share >= 1 ? "as much again and more" : `${Math.round(100 * share)} %`);
  const lines: [string, string][] = [
    ["Leaving the block", l.is.boils ? "boiling" : text(l.is.block_c, "degC")],
    [
      "Overheats above this sea temperature",
      l.sea_c === undefined ? "no sea is warm enough" : l.sea_c <= 0 ? "any" : text(l.sea_c, "degC"),
    ],
    [
      "Speed from which it overheats",
      l.rpm === undefined ? "none that it reaches" : `${Math.round(l.rpm / 10) * 10} rev/min`,
    ],
    ["Spare heat capacity", over ? "none" : spare(l.spare)],
    ["Cooling margin used", `${Math.round(100 * l.gone)} %`],
    [
      "From losing the raw water to the alarm",
      l.alarm_s === undefined ? "over an hour" : l.alarm_s === 0 ? "past it already" : `${clockTime(l.alarm_s)} min`,
    ],
    ["Raw water", `${text(l.is.raw_l_min, "L/min")} of ${text(l.healthy.raw_l_min, "L/min")} in health`],
    ["After the elbow", l.is.dry ? "dry: hose and silencer burn" : text(l.is.elbow_c, "degC")],
    ["Thermostat", `${Math.round(100 * l.is.opening)} % open`],
  ];
  return (
    <Box component="section" aria-label="What is left" sx={{ bgcolor: "background.paper", borderRadius: 1, p: 2 }}>
      <Box component="dl" sx={{ m: 0 }}>
        {lines.map(([label, value]) => (
          <Stack
            key={label}
            direction="row"
            sx={{ gap: 2, py: 0.75, borderTop: 1, borderColor: "divider", justifyContent: "space-between" }}
          >
            <Typography component="dt">{label}</Typography>
            <Typography component="dd" sx={{ m: 0, fontWeight: 700, textAlign: "right" }}>
              {value}
            </Typography>
          </Stack>
        ))}
      </Box>
      <Box sx={{ mt: 2 }}>
        <Chart picture={l.picture} units={units} system={system} />
      </Box>
    </Box>
  );
}

function Sliders(p: {
  at: Case;
  limits?: Schemas["PlantLimits"];
  set: (c: Partial<Case>) => void;
  engine: Schemas["Engine"];
  units: Units;
  system: UnitSystem;
  words: Words;
  physical: string[];
  catalogue: Catalogue;
}) {
  const { at, set, engine, units, system, words } = p;
  const alarm = at.alarmC ?? p.limits?.alarm_c;
  const drawn = useDrawn(engine.circuit);
  const text = (v: number) => shown(units, system, v, "degC");
  const possible = p.physical.filter((id) => {
    const fault = p.catalogue.faults.find((f) => f.id === id);
    const placed = fault?.stations.length === 0 || fault?.stations.some((s) => engine.circuit.includes(s));
    return fault?.families.includes(engine.family) && placed;
  });
  const most = Math.floor((1.1 * engine.rated_rpm) / 10) * 10;
  const step = { rpm: 50, degree: 0.5 };
  const change = (i: number, severity: number) =>
    set({ faults: at.faults.map((f, k) => (k === i ? { ...f, severity } : f)) });
  return (
    <Stack component="section" aria-label="What if" sx={{ gap: 1 }}>
      <Slide
        label="Speed"
        value={at.rpm}
        text={`${Math.round(at.rpm)} rev/min`}
        least={Math.ceil((0.2 * engine.rated_rpm) / 50) * 50}
        most={most}
        step={step.rpm}
        onChange={(rpm) => set({ rpm })}
      />
      <Slide
        label="Sea"
        value={at.seaC}
        text={text(at.seaC)}
        least={0}
        most={36}
        step={step.degree}
        onChange={(seaC) => set({ seaC })}
      />
      <Slide
        label="Load against the usual"
        value={at.load}
        text={`${Math.round(100 * at.load)} %`}
        least={0.5}
        most={1.6}
        step={0.05}
        onChange={(load) => set({ load })}
      />
      {alarm !== undefined && (
        <Slide
          label="Its alarm sounds at"
          value={alarm}
          text={text(alarm)}
          least={engine.thermostat_c + 4}
          most={Math.max(engine.thermostat_c + 10, hasCoolant(engine) ? 114 : 99)}
          step={step.degree}
          onChange={(alarmC) => set({ alarmC })}
        />
      )}
      <ChoiceButton
        aria-pressed={at.outOfGear}
        onClick={() => set({ outOfGear: !at.outOfGear })}
        data-on={at.outOfGear}
        sx={{ alignSelf: "flex-start" }}
      >
        Out of gear
      </ChoiceButton>
      <Typography variant="h2" sx={{ mt: 1.5 }}>
        With
      </Typography>
      {at.faults.map((f, i) => (
        <Stack key={f.id} direction="row" sx={{ alignItems: "center", gap: 1 }}>
          <Drawn of={drawn.fault(f.id)} width={72} small />
          <Box sx={{ flex: 1 }}>
            <Slide
              label={words.fault(f.id)}
              value={f.severity}
              text={severityWords(f.severity)}
              least={0}
              most={1}
              step={0.05}
              onChange={(v) => change(i, v)}
            />
          </Box>
          <Without label={words.fault(f.id)} onClick={() => set({ faults: at.faults.filter((_, k) => k !== i) })} />
        </Stack>
      ))}
      <TextField
        select
        label="Put a fault on"
        value=""
        onChange={(e) => set({ faults: [...at.faults, { id: e.target.value, severity: middling }] })}
        sx={{ bgcolor: "background.paper" }}
      >
        {possible
          .filter((id) => !at.faults.some((f) => f.id === id))
          .map((id) => (
            <MenuItem key={id} value={id}>
              {words.fault(id)}
            </MenuItem>
          ))}
      </TextField>
    </Stack>
  );
}

function severityWords(s: number): string {
  const steps: [number, string][] = [
    [0.01, "none"],
    [0.3, "slight"],
    [0.6, "middling"],
    [0.85, "bad"],
    [2, "as bad as it gets"],
  ];
  return steps.find(([most]) => s < most)?.[1] ?? "";
}

function Slide(p: {
  label: string;
  value: number;
  text: string;
  least: number;
  most: number;
  step: number;
  onChange: (v: number) => void;
}) {
  return (
    <Box sx={{ px: 0.5 }}>
      <Stack direction="row" sx={{ justifyContent: "space-between", gap: 1 }}>
        <Typography>{p.label}</Typography>
        <Typography sx={{ fontWeight: 750 }}>{p.text}</Typography>
      </Stack>
      <Slider
        aria-label={p.label}
        value={p.value}
        min={p.least}
        max={p.most}
        step={p.step}
        getAriaValueText={() => p.text}
        onChange={(_, v) => p.onChange(Array.isArray(v) ? (v[0] ?? p.value) : v)}
      />
    </Box>
  );
}

function Without({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <Button aria-label={`Without: ${label}`} onClick={onClick} sx={{ minWidth: 48, px: 0 }}>
      ✕
    </Button>
  );
}
