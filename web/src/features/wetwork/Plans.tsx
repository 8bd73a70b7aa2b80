import { newID } from "../../api/ids";
import { Alert, Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { JobPage, Schemas } from "../../api/client";
import { useSave } from "../../api/writes";
import type { Words } from "../../ui/words";
import { debrisLabels, numberOf, type WetworkAct } from "../../ui/job/wetwork";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Plan = Pick<WetworkAct, "kind" | "flush" | "descale" | "coolant">;

interface Props {
  page: JobPage;
  words: Words;
  /** What the program says against the plan as it was sent. */
  refused: string[];
  onPlan: (p: Plan) => void;
}

function Choices<T extends string>(p: {
  label: string;
  options: readonly (readonly [T, string])[];
  chosen: readonly T[];
  onToggle: (v: T) => void;
}) {
  return (
    <Box role="group" aria-label={p.label} sx={{ mt: 1.25 }}>
      <Typography sx={{ fontWeight: 550 }}>{p.label}</Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, mt: 0.5 }}>
        {p.options.map(([id, label]) => (
          <ChoiceButton
            key={id}
            aria-pressed={p.chosen.includes(id)}
            onClick={() => p.onToggle(id)}
            data-on={p.chosen.includes(id)}
          >
            {label}
          </ChoiceButton>
        ))}
      </Stack>
    </Box>
  );
}

function Figures(p: {
  fields: readonly (readonly [string, string])[];
  text: Record<string, string>;
  onGive: (key: string, t: string) => void;
}) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "1fr 1fr 1fr" }, gap: 1, mt: 1.5 }}>
      {p.fields.map(([key, label]) => (
        <TextField
          key={key}
          label={label}
          value={p.text[key] ?? ""}
          onChange={(e) => p.onGive(key, e.target.value)}
          sx={{ bgcolor: "background.paper" }}
          slotProps={{ htmlInput: { inputMode: "decimal", maxLength: 10 } }}
        />
      ))}
    </Box>
  );
}

function Send({ refused, onPlan }: { refused: string[]; onPlan: () => void }) {
  return (
    <Stack sx={{ gap: 1, mt: 2 }}>
      {refused.length > 0 && (
        <Alert severity="error">
          {refused.map((r) => (
            <div key={r}>{r.charAt(0).toUpperCase() + r.slice(1)}.</div>
          ))}
        </Alert>
      )}
      <Button variant="contained" onClick={onPlan} sx={{ minHeight: 56 }}>
        Plan it
      </Button>
    </Stack>
  );
}

const toggle = <T,>(list: readonly T[], v: T) => (list.includes(v) ? list.filter((x) => x !== v) : [...list, v]);

export function FlushPlanner({ page, words, refused, onPlan }: Props) {
  const [station, setStation] = useState(page.wet.raw.find((s) => s.endsWith("-cooler")) ?? "exchanger");
  const [also, setAlso] = useState<string[]>([]);
  const [debris, setDebris] = useState<Schemas["DebrisID"]>("rubber");
  const [source, setSource] = useState<Schemas["FlushSource"]>("hose");
  const [flags, setFlags] = useState<string[]>(
    page.hands.isolated.some((i) => i.id === "seacock") ? ["seacock_shut"] : [],
  );
  const is = (f: string) => flags.includes(f);
  const places = [station, ...also.filter((s) => s !== station)];
  const fits = (f: string) =>
    f === "impeller_out" ? places.includes("raw-pump") : f !== "both_off" || !places.includes("elbow");
  const options = [
    ["exhaust_off", "exhaust hose off at the elbow"],
    ["both_off", "both its hoses off"],
    ["impeller_out", "impeller out"],
    ["silencer_drained", "silencer's drain open"],
    ["seacock_shut", "seacock shut"],
    ["by_the_pump", "flush connection by the pump"],
    ["thermostat_open", "thermostat was open when it came in"],
  ] as const;
  return (
    <Box component="section" aria-label="Plan a flush">
      <TextField
        select
        fullWidth
        label="Where does it lie?"
        value={station}
        onChange={(e) => setStation(e.target.value)}
        sx={{ bgcolor: "background.paper" }}
      >
        {page.wet.raw.map((s) => (
          <MenuItem key={s} value={s}>
            {words.station(s)}
          </MenuItem>
        ))}
      </TextField>
      <Choices
        label="Also flushed, each with its own timer"
        options={page.wet.raw.filter((s) => s !== station).map((s) => [s, words.station(s)] as const)}
        chosen={also}
        onToggle={(s) => setAlso(toggle(also, s))}
      />
      <Choices
        label="What is it?"
        options={Object.entries(debrisLabels) as [Schemas["DebrisID"], string][]}
        chosen={[debris]}
        onToggle={setDebris}
      />
      <Choices
        label="Water from"
        options={[
          ["hose", "a hose, engine stopped"],
          ["engine", "its own pump, running"],
        ]}
        chosen={[source]}
        onToggle={setSource}
      />
      <Choices
        label="Before the flush"
        options={options.filter(([f]) => fits(f))}
        chosen={flags as never[]}
        onToggle={(f) => setFlags(toggle(flags, f))}
      />
      <Send
        refused={refused}
        onPlan={() =>
          onPlan({
            kind: "flush",
            flush: {
              station,
              ...(places.length > 1 && { also: places.slice(1) }),
              debris,
              source,
              exhaust_off: is("exhaust_off"),
              both_off: is("both_off"),
              impeller_out: is("impeller_out"),
              silencer_drained: is("silencer_drained"),
              seacock_shut: is("seacock_shut"),
              by_the_pump: is("by_the_pump"),
              thermostat_open: is("thermostat_open"),
            },
          })
        }
      />
    </Box>
  );
}

/** What was left blank of what must be said: a blank is not nought. */
const blanks = (fields: readonly (readonly [string, string])[], text: Record<string, string>) =>
  fields
    .filter(([k]) => numberOf(text[k]) === undefined)
    .map(([, label]) => `${label}: say how much; 0 where there is none`);

const loopFigures = [
  ["bath_l", "Bath in all, L"],
  ["tank_l", "Tank holds, L"],
  ["loop_l", "Loop holds, L"],
  ["hoses_l", "Hoses hold, L"],
  ["pump_l_min", "Pump, L/min"],
  ["pump_amps", "Pump draws, A"],
  ["minutes", "For, minutes"],
  ["scale_low_g", "Scale at least, g"],
  ["scale_high_g", "Scale at most, g"],
] as const;

/** What must be said of a bath. */
const asked: Record<Schemas["WetworkPlace"], readonly string[]> = {
  "in-place": ["bath_l", "tank_l", "loop_l", "hoses_l", "minutes"],
  bench: ["bath_l", "minutes"],
};

const materials: [Schemas["Material"], string][] = [
  ["copper-alloy", "copper alloy"],
  ["aluminium", "aluminium"],
  ["zinc", "zinc anode"],
  ["galvanised", "galvanised"],
  ["chrome", "chrome"],
  ["rubber", "rubber"],
  ["steel", "steel"],
  ["cast-iron", "cast iron"],
  ["stainless", "stainless"],
];

/** What may be cleaned: what lies between the pump and the elbow; on the bench the elbow too. */
const loopable = (raw: string[], place: Schemas["WetworkPlace"]) => {
  const [from, to] = [raw.indexOf("raw-pump"), raw.indexOf("elbow")];
  const dipped = place === "bench" ? 1 : 0; // an elbow that is off can be dipped, by its material
  return raw.slice(from + 1, to < 0 ? undefined : to + dipped);
};

const usualMinutes = 60;
const usualPercent = 10;

export function DescalePlanner({ page, words, refused, onPlan }: Props) {
  const { wet } = page;
  const [place, setPlace] = useState<Schemas["WetworkPlace"]>("in-place");
  const can = loopable(wet.raw, place);
  const [product, setProduct] = useState(wet.products[0]?.id ?? "");
  const [percent, setPercent] = useState(String(usualPercent));
  const [loop, setLoop] = useState<string[]>(can);
  const [made, setMade] = useState<Record<string, Schemas["Material"][]>>({}); // never guessed: acid goes by it
  const [anodes, setAnodes] = useState(page.hands.isolated.some((i) => i.id === "anodes"));
  const [mechanical, setMechanical] = useState<Schemas["DebrisID"][]>([]);
  const round = (g?: number) => (g === undefined ? "" : String(Math.round(g / 10) * 10));
  const [text, setText] = useState<Record<string, string>>({
    minutes: String(usualMinutes),
    scale_low_g: round(wet.scale_low_g),
    scale_high_g: round(wet.scale_high_g),
  });
  const chosen = wet.products.find((x) => x.id === product) ?? wet.products[0];
  const figure = (k: string) => numberOf(text[k]);
  const [blank, setBlank] = useState<string[]>([]);
  const plan = () => {
    if (!chosen) return;
    const left = blanks(
      loopFigures.filter(([k]) => asked[place].includes(k)),
      text,
    );
    setBlank(left);
    if (left.length > 0) return;
    const optional = { pump_l_min: figure("pump_l_min"), pump_amps: figure("pump_amps") };
    onPlan({
      kind: "descale",
      descale: {
        place,
        product: chosen,
        ...(chosen.acid && { target_percent_mass: numberOf(percent) ?? 0 }),
        loop: can.filter((s) => loop.includes(s)),
        materials: Object.fromEntries(can.filter((s) => loop.includes(s)).map((s) => [s, made[s] ?? []])),
        anodes_out: anodes,
        loop_l: figure("loop_l") ?? 0,
        hoses_l: figure("hoses_l") ?? 0,
        tank_l: figure("tank_l") ?? 0,
        bath_l: figure("bath_l") ?? 0,
        scale_low_g: figure("scale_low_g") ?? 0,
        scale_high_g: figure("scale_high_g") ?? figure("scale_low_g") ?? 0,
        minutes: figure("minutes") ?? 0,
        mechanical,
        ...Object.fromEntries(Object.entries(optional).filter(([, v]) => v !== undefined)),
      },
    });
  };
  return (
    <Box component="section" aria-label="Plan a descaling">
      <Choices
        label="Where"
        options={[
          ["in-place", "in place"],
          ["bench", "on the bench"],
        ]}
        chosen={[place]}
        onToggle={setPlace}
      />
      <With products={wet.products} chosen={chosen} percent={percent} onProduct={setProduct} onPercent={setPercent} />
      <OwnProduct onMade={setProduct} />
      <Choices
        label={place === "bench" ? "On the bench" : "The acid goes through"}
        options={can.map((s) => [s, words.station(s)] as const)}
        chosen={loop}
        onToggle={(s) => setLoop(toggle(loop, s))}
      />
      {can
        .filter((s) => loop.includes(s))
        .map((s) => (
          <Choices
            key={s}
            label={`${words.station(s)}, made of`}
            options={materials}
            chosen={made[s] ?? []}
            onToggle={(m) => setMade({ ...made, [s]: toggle(made[s] ?? [], m) })}
          />
        ))}
      <Choices
        label="Anodes"
        options={[["out", "anodes are out"]]}
        chosen={anodes ? ["out"] : []}
        onToggle={() => setAnodes(!anodes)}
      />
      <Figures fields={loopFigures} text={text} onGive={(k, t) => setText({ ...text, [k]: t })} />
      <Typography variant="body2" sx={{ color: "text.secondary", mt: 0.75 }}>
        Scale: {wet.scale_why}.
      </Typography>
      <Choices
        label="Suspected, and not for acid"
        options={Object.entries(debrisLabels) as [Schemas["DebrisID"], string][]}
        chosen={mechanical}
        onToggle={(m) => setMechanical(toggle(mechanical, m))}
      />
      <Send refused={blank.length > 0 ? blank : refused} onPlan={plan} />
    </Box>
  );
}

function With(p: {
  products: Schemas["Product"][];
  chosen?: Schemas["Product"];
  percent: string;
  onProduct: (id: string) => void;
  onPercent: (t: string) => void;
}) {
  return (
    <Stack direction="row" sx={{ gap: 1, mt: 1.5 }}>
      <TextField
        select
        label="With"
        value={p.chosen?.id ?? ""}
        onChange={(e) => p.onProduct(e.target.value)}
        sx={{ flex: 2, bgcolor: "background.paper", minWidth: 0 }}
      >
        {p.products.map((x) => (
          <MenuItem key={x.id} value={x.id}>
            {x.label}
          </MenuItem>
        ))}
      </TextField>
      {p.chosen?.acid && (
        <TextField
          label="Bath, % by mass"
          value={p.percent}
          onChange={(e) => p.onPercent(e.target.value)}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
      )}
    </Stack>
  );
}

/** A descaler of the yard's own, by what is printed on it; it goes into tasks and methods. */
function OwnProduct({ onMade }: { onMade: (id: string) => void }) {
  const { noteMethod } = useSave();
  const [open, setOpen] = useState(false);
  const [label, setLabel] = useState("");
  const [parts, setParts] = useState("");
  const [kind, setKind] = useState<string[]>([]);
  const ready = kind.includes("ready_mixed");
  const make = () => {
    const id = newID();
    const product = {
      id,
      label: label.trim(),
      ...(ready ? { ready_mixed: true } : { parts_water: numberOf(parts) ?? 0 }),
      ...(kind.includes("caustic") && { caustic: true }),
    };
    void noteMethod({ kind: "product", product }, label.trim()).then(() => {
      onMade(id);
      setOpen(false);
    });
  };
  if (!open)
    return (
      <Button onClick={() => setOpen(true)} sx={{ px: 0 }}>
        Another product
      </Button>
    );
  return (
    <Stack direction="row" sx={{ gap: 1, mt: 1, flexWrap: "wrap" }}>
      <TextField
        label="Name on it"
        value={label}
        onChange={(e) => setLabel(e.target.value)}
        sx={{ flex: 1, bgcolor: "background.paper" }}
      />
      {!ready && (
        <TextField
          label="Parts of water to one"
          value={parts}
          onChange={(e) => setParts(e.target.value)}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
      )}
      <Box sx={{ flexBasis: "100%" }}>
        <Choices
          label="It is"
          options={[
            ["ready_mixed", "ready-mixed"],
            ["caustic", "a caustic cleaner"],
          ]}
          chosen={kind}
          onToggle={(k) => setKind(toggle(kind, k))}
        />
      </Box>
      <Button disabled={label.trim() === "" || (!ready && !((numberOf(parts) ?? 0) > 0))} onClick={make}>
        Put it on the list
      </Button>
    </Stack>
  );
}

const coolantFigures = [
  ["block_l", "Block, L"],
  ["exchanger_l", "Exchanger, L"],
  ["header_l", "Header, L"],
  ["heater_l", "Heater branch, L"],
  ["target_percent_volume", "Wanted, % by volume"],
  ["concentrate_percent_volume", "Concentrate, %"],
  ["vessel_l", "Vessel for the old, L"],
] as const;

export function CoolantPlanner({ refused, onPlan }: Props) {
  const [text, setText] = useState<Record<string, string>>({
    target_percent_volume: "45",
    concentrate_percent_volume: "100",
  });
  const [glycol, setGlycol] = useState<Schemas["GlycolID"]>("ethylene");
  const [type, setType] = useState<Schemas["Inhibitor"]>("long-life");
  const [blank, setBlank] = useState<string[]>([]);
  const v = (k: string) => numberOf(text[k]) ?? 0;
  const plan = () => {
    const left = blanks(coolantFigures, text);
    setBlank(left);
    if (left.length > 0) return;
    onPlan({
      kind: "coolant",
      coolant: {
        block_l: v("block_l"),
        exchanger_l: v("exchanger_l"),
        header_l: v("header_l"),
        heater_l: v("heater_l"),
        glycol,
        target_percent_volume: v("target_percent_volume"),
        concentrate_percent_volume: v("concentrate_percent_volume"),
        vessel_l: v("vessel_l"),
        type,
      },
    });
  };
  return (
    <Box component="section" aria-label="Plan a coolant change">
      <Figures fields={coolantFigures} text={text} onGive={(k, t) => setText({ ...text, [k]: t })} />
      <Choices
        label="Glycol"
        options={[
          ["ethylene", "ethylene"],
          ["propylene", "propylene"],
        ]}
        chosen={[glycol]}
        onToggle={setGlycol}
      />
      <Choices
        label="Kind of coolant"
        options={[
          ["conventional", "conventional, 2 years"],
          ["hybrid", "hybrid, 3 years"],
          ["long-life", "long life, 5 years"],
        ]}
        chosen={[type]}
        onToggle={setType}
      />
      <Send refused={blank.length > 0 ? blank : refused} onPlan={plan} />
    </Box>
  );
}
