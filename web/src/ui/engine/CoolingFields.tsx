import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { hasCoolant } from "./circuit";
import { useState } from "react";
import type { PlantEngine, Schemas, UnitSystem } from "../../api/client";
import { useFacts, useCalculators } from "../../api/queries";
import { useSystem } from "../unitSystem";
import { convert, digits, shown, unitsOf, type Units } from "../units";
import { ChoiceButton } from "../ChoiceButton";

export type Cooling = Schemas["Cooling"];

const sources: Record<Schemas["FactSource"], string> = {
  given: "you gave it",
  usual: "usual",
  reckoned: "reckoned",
  baseline: "from its own healthy round",
};

/** What is known of its cooling: every figure with where it comes from; what is typed takes the usual one's place. */
export function CoolingFields(p: {
  engine: PlantEngine | undefined;
  cooling: Cooling;
  wrong: Map<string, string>;
  onChange: (c: Cooling) => void;
}) {
  const [open, setOpen] = useState(Object.keys(p.cooling).some((k) => k !== "pump_drive"));
  const { data } = useFacts(p.engine);
  const [facts, setFacts] = useState(data?.facts);
  if (data && data.facts !== facts) setFacts(data.facts); // a slip must not take the place away in which it is typed
  const list = useCalculators().data?.units;
  const system = useSystem();
  const direct = p.engine && !hasCoolant(p.engine);
  return (
    <Stack component="fieldset" sx={{ border: 0, p: 0, m: 0, gap: 1.5 }}>
      <Typography component="legend" variant="h3" sx={{ mb: 0.5 }}>
        Expected values are based on
      </Typography>
      {!p.engine && (
        <Typography sx={{ color: "text.secondary" }}>
          Give power and speed: the usual figures come by themselves.
        </Typography>
      )}
      {p.engine && list && (
        <FactLines
          facts={facts ?? []}
          units={unitsOf(list)}
          system={system}
          editing={open}
          cooling={p.cooling}
          wrong={p.wrong}
          onChange={p.onChange}
        />
      )}
      {open && !direct && <ExchangerFields cooling={p.cooling} wrong={p.wrong} onChange={p.onChange} />}
      {p.engine && !open && (
        <Button onClick={() => setOpen(true)} sx={{ alignSelf: "flex-start", px: 0 }}>
          Enter my own figures
        </Button>
      )}
    </Stack>
  );
}

type FactField =
  "propeller_exponent" | "raw_l_min" | "coolant_l_min" | "ua_w_k" | "block_kj_k" | "glycol_percent_volume" | "alarm_c";

/** The figures one under another; each with its source, and while they are changed, with a place to type. */
function FactLines(p: {
  facts: Schemas["PlantFact"][];
  units: Units;
  system: UnitSystem;
  editing: boolean;
  cooling: Cooling;
  wrong: Map<string, string>;
  onChange: (c: Cooling) => void;
}) {
  return (
    <Box>
      {p.facts.map((f) => (
        <Stack
          key={f.id}
          direction="row"
          sx={{ alignItems: "center", gap: 1.5, borderTop: 1, borderColor: "divider", py: 0.75, minHeight: 48 }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography sx={{ fontWeight: 550, lineHeight: 1.2 }}>{f.label}</Typography>
            <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.25 }}>
              {f.why}
            </Typography>
            {p.wrong.get(f.id) && (
              <Typography role="alert" variant="body2" sx={{ color: "error.main", fontWeight: 600 }}>
                {p.wrong.get(f.id)}
              </Typography>
            )}
          </Box>
          {p.editing ? (
            <FactInput fact={f} {...p} />
          ) : (
            <Typography sx={{ fontWeight: 700, textAlign: "right" }}>
              {shown(p.units, p.system, f.value, f.unit)}
              <Typography component="span" variant="body2" sx={{ display: "block", color: "text.secondary" }}>
                {sources[f.from]}
              </Typography>
            </Typography>
          )}
        </Stack>
      ))}
    </Box>
  );
}

function FactInput(p: {
  fact: Schemas["PlantFact"];
  units: Units;
  system: UnitSystem;
  cooling: Cooling;
  wrong: Map<string, string>;
  onChange: (c: Cooling) => void;
}) {
  const { fact, units, system } = p;
  const id = fact.id as FactField;
  const [from, to] = [units.find(fact.unit), units.shownAs(fact.unit, system)];
  const own = (v: number) => (from && to ? digits(convert(v, from, to), to) : String(v));
  const given = p.cooling[id];
  const [text, setText] = useState(given === undefined ? "" : own(given));
  const give = (t: string) => {
    setText(t);
    const v = Number(t.replace(",", "."));
    const rest = Object.fromEntries(Object.entries(p.cooling).filter(([k]) => k !== id)) as Cooling;
    if (t.trim() === "" || !Number.isFinite(v) || !from || !to) return p.onChange(rest);
    if (id === "ua_w_k") {
      delete rest.exchanger_rating;
      delete rest.exchanger_tubes;
    }
    p.onChange({ ...rest, [id]: convert(v, to, from) });
  };
  return (
    <TextField
      value={text}
      onChange={(e) => give(e.target.value)}
      placeholder={own(fact.value)}
      error={p.wrong.has(id)}
      sx={{ width: 150, flex: "none" }}
      slotProps={{
        htmlInput: { "aria-label": fact.label, inputMode: "decimal", maxLength: 12 },
        input: { endAdornment: <Typography sx={{ color: "text.secondary", pl: 0.5 }}>{to?.symbol}</Typography> },
      }}
    />
  );
}

const ways = [
  ["unknown", "Unknown: calibrate"],
  ["exchanger_rating", "By its rating"],
  ["exchanger_tubes", "By its tubes"],
] as const;

const rating = [
  ["heat_kw", "Passes, kW"],
  ["coolant_l_min", "Coolant, L/min"],
  ["coolant_in_c", "Coolant in, °C"],
  ["raw_l_min", "Raw water, L/min"],
  ["raw_in_c", "Raw water in, °C"],
] as const;

const tubes = [
  ["tubes", "Tubes in all"],
  ["passes", "Passes"],
  ["inner_diameter_mm", "Bore, mm"],
  ["outer_diameter_mm", "Outside, mm"],
  ["length_mm", "Length, mm"],
] as const;

/** The exchanger by what a maker's sheet says, by its tubes, or unknown until a healthy round tells it. */
function ExchangerFields(p: { cooling: Cooling; wrong: Map<string, string>; onChange: (c: Cooling) => void }) {
  const known = p.cooling.exchanger_rating
    ? "exchanger_rating"
    : p.cooling.exchanger_tubes
      ? "exchanger_tubes"
      : "unknown";
  const [way, setWay] = useState<(typeof ways)[number][0]>(known);
  const [draft, setDraft] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      Object.entries(p.cooling.exchanger_rating ?? p.cooling.exchanger_tubes ?? {}).map(([k, v]) => [k, String(v)]),
    ),
  );
  const choose = (w: typeof way) => {
    setWay(w);
    setDraft({});
    const rest = { ...p.cooling };
    delete rest.exchanger_rating;
    delete rest.exchanger_tubes;
    p.onChange(rest);
  };
  const fields = way === "exchanger_rating" ? rating : way === "exchanger_tubes" ? tubes : [];
  const give = (key: string, text: string) => {
    const next = { ...draft, [key]: text };
    setDraft(next);
    const figures = Object.fromEntries(fields.map(([k]) => [k, Number((next[k] ?? "").replace(",", "."))]));
    if (fields.every(([k]) => (next[k] ?? "").trim() !== "" && Number.isFinite(figures[k]))) {
      const rest = { ...p.cooling };
      delete rest.ua_w_k;
      p.onChange({ ...rest, [way]: figures });
    }
  };
  const slip = [...p.wrong.entries()].find(([k]) => k.startsWith("exchanger_") || k === "")?.[1];
  return (
    <Box role="group" aria-label="The heat exchanger is known">
      <Typography sx={{ fontWeight: 550 }}>The heat exchanger is known</Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, my: 0.75 }}>
        {ways.map(([id, label]) => (
          <ChoiceButton key={id} aria-pressed={way === id} onClick={() => choose(id)} data-on={way === id}>
            {label}
          </ChoiceButton>
        ))}
      </Stack>
      {way === "unknown" && (
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          The usual one for its power stands, until a round of its own in health is made its own baseline.
        </Typography>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "1fr 1fr 1fr" }, gap: 1.5, mt: 1 }}>
        {fields.map(([key, label]) => (
          <TextField
            key={key}
            label={label}
            value={draft[key] ?? ""}
            onChange={(e) => give(key, e.target.value)}
            slotProps={{ htmlInput: { inputMode: "decimal", maxLength: 12 } }}
          />
        ))}
      </Box>
      {slip && (
        <Typography role="alert" sx={{ color: "error.main", fontWeight: 600, mt: 0.5 }}>
          {slip}
        </Typography>
      )}
    </Box>
  );
}
