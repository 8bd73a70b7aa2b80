import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  Stack,
  TextField,
  Typography,
  useMediaQuery,
} from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState } from "react";
import { Refused, type Catalogue, type Schemas } from "../../api/client";
import { useCatalogue, useFacts, useTypes } from "../../api/queries";
import { CoolingFields, type Cooling } from "./CoolingFields";
import { absent, circuitFor, moved, put } from "./circuit";
import { Fold } from "../Fold";
import { Loaded } from "../Loaded";
import { askedIn, draftOf, limits, wrongIn, type Draft, type Facts } from "./engineDraft";
import { useEngineSave } from "./engineSave";
import { PumpDrive, PumpField } from "./PumpField";
import { useWriter } from "../Shell";
import { ChoiceButton } from "../ChoiceButton";

/** Adds an engine to a craft, or changes it: a few facts, and its circuit in the order of the water. */
export function EngineForm({
  craftId,
  engine,
  onClose,
}: {
  craftId: string;
  engine?: Schemas["Engine"];
  onClose: () => void;
}) {
  const catalogue = useCatalogue();
  const theme = useTheme();
  const phone = useMediaQuery(theme.breakpoints.down("sm"));
  return (
    <Dialog open onClose={onClose} fullWidth fullScreen={phone} maxWidth="sm" aria-labelledby="engine-title">
      <DialogTitle id="engine-title" component="h2">
        {engine ? engine.name : "A new engine"}
      </DialogTitle>
      <Loaded query={catalogue}>
        {(c) => <Form catalogue={c} craftId={craftId} engine={engine} onClose={onClose} />}
      </Loaded>
    </Dialog>
  );
}

function Form({
  catalogue,
  craftId,
  engine,
  onClose,
}: {
  catalogue: Catalogue;
  craftId: string;
  engine?: Schemas["Engine"];
  onClose: () => void;
}) {
  const known = useWriter();
  const [who, setWho] = useState(known);
  const [d, setD] = useState<Draft>(() => draftOf(catalogue, craftId, engine));
  const numbers = Object.keys(limits) as (keyof typeof limits)[];
  const family = (f: Facts["family"]) =>
    setD({
      ...d,
      family: f,
      circuit: circuitFor(catalogue, f),
      cooling: {},
      thermostat_c: String(catalogue.families.find((x) => x.id === f)?.thermostat_c ?? 82),
    });
  const asked = askedIn(d, numbers);
  const wrong = wrongFacts(useFacts(asked).error);
  const ready = d.name.trim() && who.trim() && asked && wrong.size === 0;
  const { keep, crossed, busy } = useEngineSave(engine, d, who, onClose);
  if (crossed) return crossed;
  return (
    <Box
      component="form"
      sx={{ display: "flex", flexDirection: "column", minHeight: 0 }}
      onSubmit={(e) => {
        e.preventDefault();
        void keep();
      }}
    >
      <DialogContent>
        <Stack sx={{ gap: 2 }}>
          {!engine && <TypePick onPick={(t) => setD({ ...d, ...ofType(t) })} />}
          {known === "" && (
            <TextField label="Your name" value={who} onChange={(e) => setWho(e.target.value)} required />
          )}
          <TextField
            label="Name"
            value={d.name}
            onChange={(e) => setD({ ...d, name: e.target.value })}
            required
            helperText="As it is called aboard: main, port, starboard."
            slotProps={{ htmlInput: { maxLength: 80 } }}
          />
          <FamilyAndFuel catalogue={catalogue} draft={d} onFamily={family} onFuel={(fuel) => setD({ ...d, fuel })} />
          <Figures draft={d} onChange={setD} />
          <Fold title="More of its cooling, where it is known" open={wrong.size > 0}>
            <CoolingFields
              key={d.family}
              engine={asked}
              cooling={d.cooling ?? {}}
              wrong={wrong}
              onChange={(cooling) => setD({ ...d, cooling })}
            />
          </Fold>
          <Fold title="When was it last done?">
            <DatesFields dates={d.dates ?? {}} onChange={(dates) => setD({ ...d, dates })} />
          </Fold>
          <Fold title={`Its circuit: ${d.circuit.length} stations`}>
            <CircuitEditor
              catalogue={catalogue}
              family={d.family}
              circuit={d.circuit}
              onChange={(circuit) => setD({ ...d, circuit })}
            />
          </Fold>
        </Stack>
      </DialogContent>
      <Actions
        engine={engine}
        ready={!!ready && !busy}
        onArchive={() => void keep(!engine?.archived)}
        onClose={onClose}
      />
    </Box>
  );
}

function Actions(p: { engine?: Schemas["Engine"]; ready: boolean; onArchive: () => void; onClose: () => void }) {
  return (
    <DialogActions sx={{ p: 2 }}>
      {p.engine && (
        <Button onClick={p.onArchive} disabled={!p.ready} sx={{ mr: "auto" }}>
          {p.engine.archived ? "Out of the archive" : "Archive"}
        </Button>
      )}
      <Button onClick={p.onClose}>Cancel</Button>
      <Button variant="contained" type="submit" disabled={!p.ready}>
        Save
      </Button>
    </DialogActions>
  );
}

function FamilyAndFuel(p: {
  catalogue: Catalogue;
  draft: Draft;
  onFamily: (f: Facts["family"]) => void;
  onFuel: (f: Facts["fuel"]) => void;
}) {
  return (
    <Stack direction={{ xs: "column", sm: "row" }} sx={{ gap: 2, "& > *": { flex: 1 } }}>
      <TextField
        select
        label="Cooling"
        value={p.draft.family}
        onChange={(e) => p.onFamily(e.target.value as Facts["family"])}
      >
        {p.catalogue.families.map((f) => (
          <MenuItem key={f.id} value={f.id}>
            {f.label}
          </MenuItem>
        ))}
      </TextField>
      <TextField select label="Fuel" value={p.draft.fuel} onChange={(e) => p.onFuel(e.target.value as Facts["fuel"])}>
        <MenuItem value="diesel">Diesel</MenuItem>
        <MenuItem value="petrol">Petrol</MenuItem>
      </TextField>
    </Stack>
  );
}

/** The engine as the model is asked about it, once its power and speed will do. */
/** What the program says of the cooling figures that were typed, by their field. */
function wrongFacts(error: unknown): Map<string, string> {
  const list = error instanceof Refused ? (error.problem.errors ?? []) : [];
  return new Map(list.map((e) => [e.field.replace(/^engine\.cooling\.?/, ""), `${e.say} (${e.allowed})`]));
}

const ofType = (t: Schemas["PlantType"]) => ({
  family: t.family,
  fuel: t.fuel,
  rated_kw: String(t.rated_kw),
  rated_rpm: String(t.rated_rpm),
  thermostat_c: String(t.thermostat_c),
  circuit: t.circuit,
  cooling: { aspiration: t.aspiration } as Cooling,
});

/** Where nothing is known yet: the kind of engine fills in what is usual. */
function TypePick({ onPick }: { onPick: (t: Schemas["PlantType"]) => void }) {
  const types = useTypes().data?.types ?? [];
  const [chosen, setChosen] = useState("");
  return (
    <Box role="group" aria-label="Kind of engine">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        Which kind is it?
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, gap: 0.75 }}>
        {types.map((t) => (
          <ChoiceButton
            key={t.id}
            aria-pressed={t.id === chosen}
            data-on={t.id === chosen}
            onClick={() => {
              setChosen(t.id);
              onPick(t);
            }}
            sx={{ justifyContent: "flex-start", textAlign: "left", lineHeight: 1.2 }}
          >
            {t.label}
          </ChoiceButton>
        ))}
      </Box>
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        It fills in what is usual; change what you know.
      </Typography>
    </Box>
  );
}

const dateFields = [
  ["impeller_fitted", "Impeller fitted"],
  ["descaled", "Descaled"],
  ["elbow_fitted", "Exhaust elbow fitted"],
  ["coolant_changed", "Coolant changed"],
  ["seacock_worked", "Seacock worked"],
] as const;

/** When something was last done: a job takes its history from these. An empty field is not sent. */
function DatesFields({ dates, onChange }: { dates: Schemas["Dates"]; onChange: (d: Schemas["Dates"]) => void }) {
  return (
    <Stack component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Typography component="legend" variant="h3" sx={{ mb: 1.5 }}>
        When was it last done? Jobs take it from here
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, gap: 2 }}>
        {dateFields.map(([key, label]) => (
          <TextField
            key={key}
            type="date"
            label={label}
            value={dates[key] ?? ""}
            onChange={(e) => onChange({ ...dates, [key]: e.target.value || undefined })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
        ))}
      </Box>
    </Stack>
  );
}

const figures = [
  ["rated_kw", "Rated power, kW"],
  ["rated_rpm", "at rev/min"],
  ["thermostat_c", "Thermostat, °C"],
] as const;

function Figures({ draft, onChange }: { draft: Draft; onChange: (d: Draft) => void }) {
  return (
    <>
      <Stack direction={{ xs: "column", sm: "row" }} sx={{ gap: 2, "& > *": { flex: 1 } }}>
        {figures.map(([key, label]) => (
          <TextField
            key={key}
            label={label}
            required
            value={draft[key]}
            onChange={(e) => onChange({ ...draft, [key]: e.target.value })}
            error={draft[key] !== "" && !!wrongIn(key, draft[key])}
            helperText={wrongIn(key, draft[key])}
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
          />
        ))}
      </Stack>
      <PumpField
        label="Raw-water pump"
        value={draft.raw_pump ?? ""}
        onChange={(raw_pump) => onChange({ ...draft, raw_pump })}
        help="Its type, as on its plate: impellers and seals are found by it."
      />
      <PumpDrive
        value={draft.cooling?.pump_drive}
        onChange={(pump_drive) => onChange({ ...draft, cooling: { ...draft.cooling, pump_drive } })}
      />
      {draft.circuit.includes("seacock") && (
        <ChoiceButton
          aria-pressed={draft.shares_seacock ?? false}
          data-on={draft.shares_seacock ?? false}
          onClick={() => onChange({ ...draft, shares_seacock: !draft.shares_seacock })}
          sx={{ alignSelf: "flex-start" }}
        >
          One seacock with other engines aboard
        </ChoiceButton>
      )}
    </>
  );
}

function CircuitEditor({
  catalogue,
  family,
  circuit,
  onChange,
}: {
  catalogue: Catalogue;
  family: Facts["family"];
  circuit: string[];
  onChange: (c: string[]) => void;
}) {
  const label = (id: string) => catalogue.stations.find((s) => s.id === id)?.label ?? id;
  const small = { minWidth: 48, px: 0, color: "text.primary" };
  return (
    <Stack component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Typography component="legend" variant="h3" sx={{ mb: 0.5 }}>
        The circuit, in the order of the water
      </Typography>
      {circuit.map((id, i) => (
        <Stack key={id} direction="row" sx={{ alignItems: "center", borderTop: 1, borderColor: "divider" }}>
          <Typography sx={{ width: 32, color: "text.secondary" }}>{i + 1}</Typography>
          <Typography sx={{ mr: "auto" }}>{label(id)}</Typography>
          <Button
            sx={small}
            disabled={i === 0}
            onClick={() => onChange(moved(circuit, i, -1))}
            aria-label={`${label(id)}: earlier`}
          >
            ↑
          </Button>
          <Button
            sx={small}
            disabled={i === circuit.length - 1}
            onClick={() => onChange(moved(circuit, i, 1))}
            aria-label={`${label(id)}: later`}
          >
            ↓
          </Button>
          <Button
            sx={small}
            onClick={() => onChange(circuit.filter((s) => s !== id))}
            aria-label={`${label(id)}: not on this engine`}
          >
            ✕
          </Button>
        </Stack>
      ))}
      <Typography variant="h3" sx={{ mt: 2 }}>
        Not on this engine
      </Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 1, mt: 1 }}>
        {absent(catalogue, family, circuit).map((s) => (
          <Button
            key={s.id}
            variant="outlined"
            onClick={() => onChange(put(catalogue, circuit, s.id))}
            aria-label={`Put in: ${s.label}`}
          >
            + {s.label}
          </Button>
        ))}
      </Stack>
    </Stack>
  );
}
