import { Box, MenuItem, TextField } from "@mui/material";
import type { Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { numberOf } from "../../ui/inventory";

type Impeller = Schemas["ImpellerMeasures"];
type Key = keyof Impeller;

/** An impeller's measures as they are typed. */
export type Draft = Record<Key, string>;

const lengths = [
  ["outside_diameter_mm", "Outside, mm"],
  ["width_mm", "Width, mm"],
  ["bore_mm", "Bore, mm"],
  ["blades", "Blades"],
] as const;

const makes = [
  ["drive", "Drive", "drives"],
  ["insert", "Insert", "inserts"],
  ["cover_seal", "Cover seal", "cover_seals"],
] as const;

export function draftOf(i: Impeller = {}): Draft {
  const text = (key: Key) => String(i[key] ?? "");
  return {
    outside_diameter_mm: text("outside_diameter_mm"),
    width_mm: text("width_mm"),
    bore_mm: text("bore_mm"),
    blades: text("blades"),
    drive: text("drive"),
    insert: text("insert"),
    cover_seal: text("cover_seal"),
  };
}

/** What was typed, without what was left empty; nothing when all was. */
export function measuresOf(d: Draft): Impeller | undefined {
  const out: Impeller = {};
  for (const [key] of lengths) {
    const n = numberOf(d[key]);
    if (n !== undefined) out[key] = n;
  }
  for (const [key] of makes) if (d[key]) out[key] = d[key];
  return Object.keys(out).length > 0 ? out : undefined;
}

/** The first field whose text is no number. */
export const notANumber = (d: Draft) =>
  lengths.find(([key]) => d[key].trim() !== "" && numberOf(d[key]) === undefined)?.[0];

const spoken = (word: string) => (word === "o-ring" ? "O-ring" : word.replace("-", " "));

/** The measures of an impeller: what is not known stays empty. */
export function Measures({ draft, onChange }: { draft: Draft; onChange: (d: Draft) => void }) {
  const words = useCatalogue().data?.impeller;
  const set = (key: Key) => (e: { target: { value: string } }) => onChange({ ...draft, [key]: e.target.value });
  return (
    <Box sx={{ display: "grid", gap: 1.25, gridTemplateColumns: { xs: "1fr 1fr", md: "repeat(4, 1fr)" } }}>
      {lengths.map(([key, label]) => (
        <TextField
          key={key}
          label={label}
          value={draft[key]}
          onChange={set(key)}
          error={notANumber(draft) === key}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ bgcolor: "background.paper" }}
        />
      ))}
      {makes.map(([key, label, list]) => (
        <TextField
          key={key}
          select
          label={label}
          value={words ? draft[key] : ""}
          onChange={set(key)}
          sx={{ bgcolor: "background.paper" }}
        >
          <MenuItem value="">not known</MenuItem>
          {words?.[list].map((w) => (
            <MenuItem key={w} value={w}>
              {spoken(w)}
            </MenuItem>
          ))}
        </TextField>
      ))}
    </Box>
  );
}
