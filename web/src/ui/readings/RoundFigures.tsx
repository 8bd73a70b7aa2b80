import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import type { JobPage, Schemas } from "../../api/client";
import { useDrawn } from "../drawings";
import { useSystem } from "../unitSystem";
import { convert, digits, type Units } from "../units";
import { when } from "../words";
import { BucketWatch } from "./BucketWatch";
import { Line, PlaceLine, surfaceWords } from "./RoundPlaces";
import { readAt, type Place, type SurfaceID, type Tool } from "./rounds";
import { contact, type Typed } from "./typed";
import { ChoiceButton } from "../ChoiceButton";

/** The figures of a round as they are typed: speed, sea and load, then place after place as the water runs. */
export function RoundFigures(p: {
  page: JobPage;
  draft: Typed;
  set: (d: Partial<Typed>) => void;
  places: Place[];
  refused?: string;
  /** The round as the program took it. */
  taken?: Schemas["PlantRound"];
  units: Units;
  /** What a station is called. */
  children: (station: string) => string;
}) {
  const { page, draft, set, units } = p;
  const system = useSystem();
  const drawn = useDrawn(page.engine.circuit);
  const last = page.rounds[page.rounds.length - 1];
  const own = (v: number, unit: string) => {
    const [from, to] = [units.find(unit), units.shownAs(unit, system)];
    return from && to ? digits(convert(v, from, to), to).replace("−", "-") : String(v);
  };
  const give = (place: Place, text: string) =>
    set({
      typed: { ...draft.typed, [place.key]: text },
      tools: { ...draft.tools, [place.key]: draft.tool },
      ...(place.station === "flow" && { flowError: undefined }),
    });
  const again = () =>
    last &&
    set({
      rpm: String(last.round.operation.rpm),
      sea: own(last.round.operation.sea_c, "degC"),
      outOfGear: last.round.operation.out_of_gear ?? false,
    });
  return (
    <Box component="section" aria-label="What was read">
      {last && draft.rpm === "" && (
        <Button
          onClick={again}
          fullWidth
          variant="outlined"
          sx={{ borderColor: "text.primary", color: "text.primary" }}
        >
          The same again: {last.round.operation.rpm} rev/min, as on {when(last.at)}
        </Button>
      )}
      <Line label="Speed" unit="rev/min" text={draft.rpm} onGive={(rpm) => set({ rpm })} />
      <Line
        label="Sea"
        unit={units.shownAs("degC", system)?.symbol ?? "°C"}
        text={draft.sea}
        onGive={(sea) => set({ sea })}
      />
      <Line label="Has run so, from cold" unit="min" text={draft.ran ?? ""} onGive={(ran) => set({ ran })} />
      <Choice
        label="Load"
        options={[
          [false, "In gear"],
          [true, "Out of gear"],
        ]}
        chosen={draft.outOfGear}
        onChoose={(outOfGear) => set({ outOfGear })}
      />
      {(p.places.length === 0 || p.places.some((x) => x.unit === "degC")) && (
        <Instruments tool={draft.tool} onChoose={(tool) => set({ tool })} />
      )}
      {p.refused && <Alert severity="error">{p.refused}</Alert>}
      {p.places.length === 0 && !p.refused && (
        <Typography sx={{ py: 1 }}>With speed and sea temperature Hevrin says what each place should read.</Typography>
      )}
      {p.places.map((place) => (
        <PlaceLine
          key={place.key}
          {...{ place, units, system }}
          drawing={place.station === "flow" ? drawn.check("outlet-flow") : drawn.station(place.station)}
          label={place.station === "flow" ? "Raw water, bucket and watch" : p.children(place.station)}
          tool={draft.tools[place.key] ?? draft.tool}
          text={draft.typed[place.key] ?? ""}
          taken={readAt(p.taken, place)}
          last={readAt(last?.round, place)}
          onGive={(t) => give(place, t)}
        />
      ))}
      {p.places.some((x) => x.station === "flow") && (
        <BucketWatch
          {...{ units, system }}
          onTake={(lMin, error) =>
            set({ typed: { ...draft.typed, flow: own(lMin, "L/min") }, flowError: Math.max(0.01, error) })
          }
        />
      )}
    </Box>
  );
}

function Choice<T extends string | boolean>(p: {
  label: string;
  options: [T, string][];
  chosen: T;
  onChoose: (v: T) => void;
}) {
  return (
    <Stack
      direction="row"
      role="group"
      aria-label={p.label}
      sx={{ gap: 0.75, py: 1, flexWrap: "wrap", alignItems: "center", borderBottom: 1, borderColor: "divider" }}
    >
      {p.options.map(([id, label]) => (
        <ChoiceButton
          key={label}
          aria-pressed={p.chosen === id}
          onClick={() => p.onChoose(id)}
          data-on={p.chosen === id}
        >
          {label}
        </ChoiceButton>
      ))}
    </Stack>
  );
}

/** The tool in hand: what is typed next is read with it. */
function Instruments({ tool, onChoose }: { tool: Tool; onChoose: (t: Tool) => void }) {
  const surfaces = Object.entries(surfaceWords) as [SurfaceID, string][];
  const infrared = tool.instrument === "surface";
  return (
    <>
      <Choice
        label="Read with"
        options={[
          ["contact", "Contact probe"],
          ["surface", "Surface thermometer"],
        ]}
        chosen={tool.instrument}
        onChoose={(instrument) => onChoose(instrument === "surface" ? { instrument, surface: "matt" } : contact)}
      />
      {infrared && (
        <Choice
          label="Pointed at"
          options={surfaces}
          chosen={tool.surface ?? "matt"}
          onChoose={(surface) => onChoose({ ...tool, surface })}
        />
      )}
      {infrared && tool.surface === "bright" && (
        <Alert severity="warning" sx={{ my: 1 }}>
          Bright metal shows the room, not itself. A strip of matt tape, a minute to warm, and read that.
        </Alert>
      )}
    </>
  );
}
