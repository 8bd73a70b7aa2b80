import { Later } from "../../ui/chart/Later";
import { useDraft } from "../../ui/draft";
import { Alert, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { lazy, useDeferredValue, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { Refused, type Catalogue, type JobPage, type Schemas } from "../../api/client";
import { useHealth, useShould } from "../../api/queries";
import { useSave } from "../../api/writes";
import { askedOf } from "./question";
import { BucketWatch } from "./BucketWatch";
import { Cautions } from "../../ui/Cautions";
import { useDrawn } from "../../ui/drawings";
import { JobFrame } from "../../ui/job/JobFrame";
import { HealthWords } from "../../ui/readings/HealthWords";
import { May } from "../../ui/May";
import { useNotice } from "../../ui/notices";
import { OfJob } from "../../ui/job/OfJob";
import { RoundSeen } from "../../ui/practice/RoundSeen";
import {
  placesOf,
  readAt,
  roundOf,
  typedNumber,
  type Place,
  type SurfaceID,
  type Tool,
} from "../../ui/readings/rounds";
import { Line, PlaceLine, surfaceWords } from "./RoundPlaces";
import { useWriter } from "../../ui/Shell";
import { ScreenHead } from "../../ui/ScreenHead";
import { WhoDialog } from "../../ui/WhoDialog";
import { useSystem } from "../../ui/unitSystem";
import { convert, digits, type Units } from "../../ui/units";
import { when, wordsOf } from "../../ui/words";

const PathPicture = lazy(() => import("../../ui/readings/PathPicture").then((m) => ({ default: m.PathPicture })));

/** A round of readings at a steady speed: place after place as the water runs, each beside what it should be. */
export function RoundScreen() {
  return <OfJob>{(p) => <Round {...p} />}</OfJob>;
}

/** An engine under load, hands on hot parts. */
const aboutRunning = ["under-load", "turning-parts", "hot-exhaust"];

interface Draft {
  rpm: string;
  sea: string;
  /** Minutes since it was cold; a low reading before its plateau tells nothing. */
  ran?: string;
  outOfGear: boolean;
  tool: Tool;
  typed: Record<string, string>;
  /** What each place was read with: the tool in hand when it was typed. */
  tools: Record<string, Tool>;
  flowError?: number;
  words: string;
}

const contact: Tool = { instrument: "contact" };
const empty: Draft = { rpm: "", sea: "", outOfGear: false, tool: contact, typed: {}, tools: {}, words: "" };

type SetDraft = (d: Partial<Draft>) => void;

function Round({ catalogue, page, units }: { catalogue: Catalogue; page: JobPage; units: Units }) {
  const words = wordsOf(catalogue);
  const system = useSystem();
  const [draft, setDraft, forget] = useDraft<Draft>(`hevrin.round.${page.card.id}`, empty);
  const set: SetDraft = (d) => setDraft((was) => ({ ...was, ...d }));
  const asked = useRound(page, draft, units);
  const { state, round, health, operation } = asked;
  const read = round?.readings.length ?? 0;
  const taken = health?.rounds?.[0];
  return (
    <JobFrame page={page} catalogue={catalogue}>
      <ScreenHead title="A round of readings" drawing="round">
        Hold one speed until nothing moves any more, then go in flow order. Skip what you cannot reach.
      </ScreenHead>
      <Box sx={{ mt: 1.5 }}>
        <Cautions ids={aboutRunning} />
      </Box>
      <RoundSeen {...{ page, words, units }} />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1.1fr) minmax(0, 1fr)" },
          gap: { xs: 2.5, md: 4 },
          mt: 1.5,
          alignItems: "start",
        }}
      >
        <WhatWasRead {...{ page, draft, set, units }} places={asked.places} refused={asked.refused} taken={taken}>
          {words.station}
        </WhatWasRead>
        <Stack sx={{ gap: 2.5, position: { md: "sticky" }, top: 12 }}>
          {read > 0 && taken && state && (
            <Later height={320}>
              <PathPicture
                round={taken}
                should={state.readings}
                baseline={page.standard.kind === "baseline" ? state.standard : undefined}
                twin={page.standard.kind === "twin" ? state.standard : undefined}
                {...{ words, units, system }}
              />
            </Later>
          )}
          {read > 0 && health && (
            <HealthWords health={health} standard={page.standard} rpm={operation?.rpm} {...{ words, units, system }} />
          )}
          {read > 0 && (
            <May right="work">
              <Keep page={page} round={round} draft={draft} onWords={(w) => set({ words: w })} onKept={forget} />
            </May>
          )}
        </Stack>
      </Box>
    </JobFrame>
  );
}

/** What should be read at the operation that was typed, the round as it stands, and what it says. */
function useRound(page: JobPage, draft: Draft, units: Units) {
  const system = useSystem();
  const engine = useMemo(() => askedOf(page.engine, page.standard), [page]);
  const operation = useMemo((): Schemas["Operation"] | undefined => {
    const [rpm, sea] = [Number(draft.rpm), typedNumber(draft.sea, "degC", units, system)];
    if (!(rpm > 0) || sea === undefined) return undefined;
    const ran = Number(draft.ran);
    return {
      rpm,
      sea_c: sea,
      ...(draft.outOfGear && { out_of_gear: true }),
      ...(ran > 0 && { ran_min: ran }),
    };
  }, [draft.rpm, draft.sea, draft.outOfGear, draft.ran, units, system]);
  const should = useShould(engine, useDeferredValue(operation));
  const state = should.isError ? undefined : should.data;
  const places = useMemo(() => (state ? placesOf(state, engine.family === "direct") : []), [state, engine]);
  const { typed, tools, flowError } = draft;
  const round = useMemo(
    () => operation && roundOf(operation, typed, places, (key) => tools[key] ?? contact, flowError, units, system),
    [operation, typed, tools, flowError, places, units, system],
  );
  const health = useHealth(engine, useDeferredValue(round), system);
  const refusal = [should.error, health.error].find((e) => e instanceof Refused);
  const refused = refusal?.problem.errors?.[0]?.say ?? refusal?.problem.detail;
  return { state, places, round, refused, operation, health: health.isError ? undefined : health.data };
}

function WhatWasRead(p: {
  page: JobPage;
  draft: Draft;
  set: SetDraft;
  places: Place[];
  refused?: string;
  taken?: Schemas["PlantRound"];
  units: Units;
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
    <Box
      component="section"
      aria-label="What was read"
      sx={{ bgcolor: "background.paper", borderRadius: 1, px: { xs: 1.25, md: 2 }, py: 1 }}
    >
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
      <Instruments tool={draft.tool} onChoose={(tool) => set({ tool })} />
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
      {p.places.length > 0 && (
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
        <Button
          key={label}
          aria-pressed={p.chosen === id}
          onClick={() => p.onChoose(id)}
          variant="choice"
          data-on={p.chosen === id}
        >
          {label}
        </Button>
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

function Keep(p: {
  page: JobPage;
  round?: Schemas["PlantRound"];
  draft: Draft;
  onWords: (w: string) => void;
  onKept: () => void;
}) {
  const { noteInJob, undo } = useSave();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const keep = () => {
    if (!name) return setAsking(true);
    const entry = { kind: "round" as const, round: p.round, words: p.draft.words.trim() || undefined };
    noteInJob(p.page.card.id, entry, "Round saved").then((id) => {
      p.onKept();
      kept("Round saved", () => void undo(id).then(() => kept("Taken back"), failed));
    }, failed);
    void navigate(`/jobs/${p.page.card.id}`);
  };
  return (
    <Stack sx={{ gap: 1 }}>
      <TextField
        label="A word with it"
        placeholder="Off the quay, steady for ten minutes"
        value={p.draft.words}
        onChange={(e) => p.onWords(e.target.value)}
        sx={{ bgcolor: "background.paper" }}
        slotProps={{ htmlInput: { maxLength: 4000 } }}
      />
      <Button variant="contained" onClick={keep} sx={{ minHeight: 56 }}>
        Save the round
      </Button>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Stack>
  );
}
