import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  Stack,
  TextField,
  Typography,
} from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useYard } from "../../api/queries";
import { pick } from "../SumFields";
import { howWords, numberOf, type OnShelf, type ShelfLine } from "./shelf";

const uses = [
  ["", "nothing that falls due"],
  ["impeller", "Impeller"],
  ["pump-seals", "Raw-water pump seals"],
  ["anode", "Exchanger anode"],
  ["descale", "Exchanger scale"],
  ["coolant", "Coolant"],
  ["thermostat", "Thermostat"],
  ["cap", "Pressure cap"],
  ["belts", "Belts"],
  ["raw-hoses", "Raw-water hoses"],
  ["elbow-life", "Exhaust elbow"],
] as const;

type Fit = Schemas["ShelfFit"];

/** A part of the shelf: what it is, where it lies, the least, and which engines it fits and how that is known. */
export function PartForm({ line, onAct, onClose }: { line?: ShelfLine; onAct: OnShelf; onClose: () => void }) {
  const [label, setLabel] = useState(line?.is.label ?? "");
  const [number, setNumber] = useState(line?.is.number ?? "");
  const [where, setWhere] = useState(line?.is.where ?? "");
  const [minimum, setMinimum] = useState(String(line?.is.minimum ?? ""));
  const [upkeep, setUpkeep] = useState(line?.is.upkeep ?? "");
  const [fits, setFits] = useState<Fit[]>(line?.is.fits ?? []);
  const keep = () => {
    const least = numberOf(minimum);
    const is: Schemas["ShelfPart"] = {
      ...line?.is,
      label: label.trim(),
      number: number.trim(),
      where: where.trim(),
      upkeep,
      fits,
      minimum: least ?? 0,
    };
    onAct({ do: "keep", part: line?.id ?? crypto.randomUUID(), is }, `${is.label} kept`);
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="part-title">
      <DialogTitle id="part-title" component="h2">
        {line ? line.is.label : "A part for the shelf"}
      </DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 2, pt: 1 }}>
          <TextField label="What it is" value={label} onChange={(e) => setLabel(e.target.value)} autoFocus required />
          <Stack direction="row" sx={{ gap: 1 }}>
            <TextField label="Supplier's number" value={number} onChange={(e) => setNumber(e.target.value)} fullWidth />
            <TextField label="Where it lies" value={where} onChange={(e) => setWhere(e.target.value)} fullWidth />
          </Stack>
          <Stack direction="row" sx={{ gap: 1 }}>
            <TextField
              label="The least to have"
              value={minimum}
              onChange={(e) => setMinimum(e.target.value)}
              slotProps={{ htmlInput: { inputMode: "decimal" } }}
              fullWidth
            />
            <TextField select label="Used for" value={upkeep} onChange={(e) => setUpkeep(e.target.value)} fullWidth>
              {uses.map(([id, name]) => (
                <MenuItem key={id} value={id}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
          </Stack>
          <FitsOn fits={fits} onFits={setFits} />
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" disabled={!label.trim()} onClick={keep}>
          Keep
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function FitsOn({ fits, onFits }: { fits: Fit[]; onFits: (f: Fit[]) => void }) {
  const yard = useYard();
  const engines = (yard.data?.craft ?? []).flatMap((c) =>
    c.engines.map((e) => ({ id: e.engine.id, name: `${c.craft.name}, ${e.engine.name}` })),
  );
  const [engine, setEngine] = useState("");
  const nameOf = (id: string) => engines.find((e) => e.id === id)?.name ?? id;
  const add = (how: Fit["how"]) => {
    onFits([...fits.filter((f) => f.engine !== engine), { engine, how }]);
    setEngine("");
  };
  return (
    <Stack sx={{ gap: 1 }}>
      <Typography variant="h3">Fits</Typography>
      {fits.map((f) => (
        <Stack key={f.engine} direction="row" sx={{ alignItems: "center", gap: 1 }}>
          <Typography sx={{ mr: "auto" }}>
            {nameOf(f.engine)}: {howWords[f.how]}
          </Typography>
          <Button onClick={() => onFits(fits.filter((x) => x !== f))}>Take away</Button>
        </Stack>
      ))}
      <TextField select label="An engine" value={engine} onChange={(e) => setEngine(e.target.value)}>
        {engines.map((e) => (
          <MenuItem key={e.id} value={e.id}>
            {e.name}
          </MenuItem>
        ))}
      </TextField>
      {engine && (
        <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
          {(["tried", "measured", "listed"] as const).map((how) => (
            <Button key={how} onClick={() => add(how)} sx={pick(false)}>
              It fits: {howWords[how]}
            </Button>
          ))}
        </Stack>
      )}
    </Stack>
  );
}
