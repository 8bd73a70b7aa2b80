import { Box, InputBase, Stack, Typography } from "@mui/material";
import type { PlantRound, Schemas, UnitSystem } from "../../api/client";
import { Drawn } from "../Drawn";
import { bandOf, standing, typedNumber, type Place, type Tool } from "./rounds";
import { shown, shownError, type Units } from "../units";

/** A line of the round: what, what was typed, in which unit. */
export function Line(p: {
  drawing?: Schemas["Drawing"];
  label: string;
  unit: string;
  text: string;
  below?: React.ReactNode;
  wrong?: boolean;
  onGive: (t: string) => void;
}) {
  return (
    <Stack
      direction="row"
      sx={{ alignItems: "center", gap: 1, minHeight: 60, borderBottom: 1, borderColor: "divider", py: 0.5 }}
    >
      {/* beside the names at a desk; on a phone they need the room */}
      <Box sx={{ display: { xs: "none", sm: "block" } }}>
        <Drawn of={p.drawing} width={56} small />
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography sx={{ fontWeight: 550, lineHeight: 1.25 }}>{p.label}</Typography>
        {p.below}
      </Box>
      <InputBase
        value={p.text}
        onChange={(e) => p.onGive(e.target.value)}
        inputProps={{ "aria-label": p.label, inputMode: "decimal", autoComplete: "off", maxLength: 12 }}
        sx={{
          width: 112,
          flex: "none",
          bgcolor: (t) => t.water.sunk,
          borderBottom: 3,
          borderColor: p.wrong ? "error.main" : "text.primary",
          px: 1,
          minHeight: 52,
          fontSize: "1.4rem",
          fontWeight: 750,
          "& input": { textAlign: "right" },
        }}
      />
      <Typography sx={{ width: 62, flex: "none", color: "text.secondary" }}>{p.unit}</Typography>
    </Stack>
  );
}

/** The figure of "23.9 °C". */
const bare = (text: string) => text.split("\u00a0")[0] ?? text;

const sideWords = { raw: "raw water", coolant: "coolant" };
const standingWords = { right: "as it should be", high: "too high", low: "too low" };
export const surfaceWords = {
  matt: "tape, paint or rubber",
  rust: "rusted iron",
  oxidised: "dull brass or bronze",
  bright: "bright metal",
} as const;

type Reading = PlantRound["readings"][number];

interface PlaceProps {
  place: Place;
  label: string;
  /** Where the thermometer goes. */
  drawing?: Schemas["Drawing"];
  tool: Tool;
  text: string;
  /** The reading as the program takes it: its error, and what a surface was truly at. */
  taken?: Reading;
  last?: Reading;
  units: Units;
  system: UnitSystem;
  onGive: (t: string) => void;
}

const standsAt = ({ place, tool, taken }: PlaceProps, typed: number) =>
  standing(place, taken?.value ?? typed, tool.instrument, taken?.error);

/** A place with what it should read, what it read last time, and how what was typed stands beside that. */
export function PlaceLine(p: PlaceProps) {
  const { place, units, system } = p;
  const typed = typedNumber(p.text, place.unit, units, system);
  const stands = typed === undefined ? undefined : standsAt(p, typed);
  const wrong = p.text.trim() !== "" && typed === undefined;
  return (
    <Line
      drawing={p.drawing}
      label={place.side && place.station !== "gauge" ? `${p.label}, ${sideWords[place.side]}` : p.label}
      unit={units.shownAs(place.unit, system)?.symbol ?? ""}
      text={p.text}
      wrong={wrong || (stands !== undefined && stands !== "right")}
      onGive={p.onGive}
      below={
        <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.3 }}>
          {notes(p, typed !== undefined).join("; ")}
          {(stands ?? wrong) && (
            <Box component="strong" sx={{ color: stands === "right" ? "text.primary" : "error.main" }}>
              {`; ${stands ? standingWords[stands] : "type a number"}`}
            </Box>
          )}
        </Typography>
      }
    />
  );
}

/** What a surface was truly at, what the place should read, and what it read last time. */
function notes(p: PlaceProps, typed: boolean): string[] {
  const { place, taken, tool } = p;
  const text = (v: number) => shown(p.units, p.system, v, place.unit);
  const band = bandOf(place, tool.instrument, typed ? taken?.error : undefined);
  const list: string[] = [];
  if (typed && taken?.as_read !== undefined && tool.surface) {
    const error = shownError(p.units, p.system, taken.error ?? 0, "K");
    list.push(`${surfaceWords[tool.surface]}: truly ${text(taken.value)} ± ${error}`);
  }
  if (band) list.push(`should be ${bare(text(band[0]))} to ${text(band[1])}`);
  if (p.last) list.push(`last ${text(p.last.value)}`);
  return list;
}
