import { newID } from "../../api/ids";
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
import type { Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { FitsOn } from "./FitsOn";
import { draftOf, Measures, measuresOf, notANumber } from "./Measures";
import { numberOf, type OnShelf, type InventoryLine } from "../../ui/inventory";

type Part = Schemas["Part"];

const texts = [
  ["number", "Supplier's number"],
  ["where", "Where it lies"],
] as const;

const figures = [
  ["minimum", "The least to have"],
  ["price", "Price each"],
] as const;

type Texts = Record<"label" | "unit" | "upkeep" | (typeof texts | typeof figures)[number][0], string>;

function textsOf(is?: Part): Texts {
  const text = (v: string | number | undefined) => String(v ?? "");
  return {
    label: text(is?.label),
    number: text(is?.number),
    where: text(is?.where),
    unit: text(is?.unit),
    minimum: text(is?.minimum),
    price: text(is?.price),
    upkeep: text(is?.upkeep),
  };
}

/** What stands on the lines of a text, without empty ones. */
const linesOf = (text: string) =>
  text
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);

/** A figure that is typed and is none, or is below nothing. */
const bad = (text: string) => text.trim() !== "" && !((numberOf(text) ?? -1) >= 0);

/**
 * A part of the inventory: what it is, where it lies, the
 * least, and which engines and pumps it fits and how that is known.
 */
export function PartForm({ line, onAct, onClose }: { line?: InventoryLine; onAct: OnShelf; onClose: () => void }) {
  const theme = useTheme();
  const phone = useMediaQuery(theme.breakpoints.down("sm"));
  const [t, setT] = useState(() => textsOf(line?.is));
  const [impeller, setImpeller] = useState(() => draftOf(line?.is.impeller));
  const [holds, setHolds] = useState((line?.is.holds ?? []).join("\n"));
  const [fits, setFits] = useState(line?.is.fits ?? []);
  const set = (key: keyof Texts) => (e: { target: { value: string } }) => setT({ ...t, [key]: e.target.value });
  const [begun] = useState(() => ({ part: line?.id ?? newID(), ...(line && { seen: line.kept }) }));
  const [unsaid, setUnsaid] = useState(false);
  const wrong = figures.some(([key]) => bad(t[key])) || notANumber(impeller) !== undefined;
  const keep = (gone: boolean) => {
    const { minimum, price, ...words } = t;
    const measures = measuresOf(impeller);
    const is: Part = {
      ...words,
      label: t.label.trim(),
      fits,
      minimum: numberOf(minimum) ?? 0,
      price: numberOf(price) ?? 0,
      ...(measures && { impeller: measures }),
      ...(linesOf(holds).length > 0 && { holds: linesOf(holds) }),
      ...(gone && { gone }),
    };
    const say = gone ? `${is.label}: no longer stocked` : `${is.label} saved`;
    void onAct({ do: "keep", ...begun, is }, say).then((done) => done && onClose());
  };
  return (
    <Dialog open onClose={onClose} fullWidth fullScreen={phone} maxWidth="sm" aria-labelledby="part-title">
      <DialogTitle id="part-title" component="h2">
        {line ? line.is.label : "A part"}
      </DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 2, pt: 1 }}>
          <TextField label="What it is" value={t.label} onChange={set("label")} autoFocus={!line} required />
          <Pair>
            {texts.map(([key, label]) => (
              <TextField key={key} label={label} value={t[key]} onChange={set(key)} />
            ))}
            {figures.map(([key, label]) => (
              <TextField
                key={key}
                label={label}
                value={t[key]}
                onChange={set(key)}
                error={bad(t[key])}
                helperText={bad(t[key]) ? "A number, 0 or more" : undefined}
                slotProps={{ htmlInput: { inputMode: "decimal" } }}
              />
            ))}
            <TextField label="Counted in" value={t.unit} onChange={set("unit")} helperText="L, kg, m; empty: pieces" />
            <UsedFor value={t.upkeep} onChange={set("upkeep")} />
          </Pair>
          <TextField
            label="A kit: what it holds, one a line"
            multiline
            minRows={2}
            value={holds}
            onChange={(e) => setHolds(e.target.value)}
            placeholder={"Impeller\nCover gasket"}
            helperText="A task then says what the kit lacks, before anything is shut"
          />
          {(t.upkeep === "impeller" || measuresOf(impeller)) && (
            <Box component="section" aria-label="Its measures">
              <Typography variant="h3" sx={{ mb: 1.5 }}>
                Its measures: which old ones it replaces is told by them
              </Typography>
              <Measures draft={impeller} onChange={setImpeller} />
            </Box>
          )}
          <FitsOn fits={fits} onFits={setFits} onOpen={setUnsaid} />
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        {line && (
          <Button onClick={() => keep(true)} sx={{ mr: "auto", color: "text.secondary" }}>
            Not kept any more
          </Button>
        )}
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" disabled={!t.label.trim() || wrong || unsaid} onClick={() => keep(false)}>
          Save
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Pair({ children }: { children: React.ReactNode }) {
  return <Box sx={{ display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr 1fr" } }}>{children}</Box>;
}

/** The maintenance item that uses the part: when it falls due the part is wanted. */
function UsedFor({ value, onChange }: { value: string; onChange: (e: { target: { value: string } }) => void }) {
  const list = useCatalogue().data?.upkeep;
  return (
    <TextField select label="Used for" value={list ? value : ""} onChange={onChange}>
      <MenuItem value="">nothing that falls due</MenuItem>
      {list?.map((u) => (
        <MenuItem key={u.id} value={u.id}>
          {u.label}
        </MenuItem>
      ))}
    </TextField>
  );
}
