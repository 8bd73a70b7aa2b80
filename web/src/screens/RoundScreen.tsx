import { Alert, Box, Button, InputBase, Stack, TextField, Typography } from "@mui/material";
import { useDeferredValue, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { Refused, type Catalogue, type JobPage, type PlantEngine, type Schemas } from "../api/client";
import { useCatalogue, useHealth, useJob, useKeep, useShould, useSums } from "../api/queries";
import { Cautions } from "../parts/Cautions";
import { HealthWords } from "../parts/HealthWords";
import { Loaded } from "../parts/Loaded";
import { useNotice } from "../parts/notice";
import { PathPicture } from "../parts/PathPicture";
import { bandOf, placesOf, roundOf, standing, typedNumber, type InstrumentID, type Place } from "../parts/round";
import { WhoDialog, useWriter } from "../parts/Shell";
import { pick } from "../parts/SumFields";
import { useSystem } from "../parts/system";
import { shown, unitsOf, type Units } from "../parts/units";
import { wordsOf } from "../parts/words";

/** A round of readings at a steady speed: place after place in the order of the water, each beside what it should be. */
export function RoundScreen() {
  const { id = "" } = useParams();
  const job = useJob(id, { once: true });
  const catalogue = useCatalogue();
  const sums = useSums();
  return (
    <Loaded query={catalogue}>
      {(c) => (
        <Loaded query={sums}>
          {(s) => <Loaded query={job}>{(page) => <Round catalogue={c} page={page} units={unitsOf(s.units)} />}</Loaded>}
        </Loaded>
      )}
    </Loaded>
  );
}

/** An engine under load, hands on hot parts. */
const aboutRunning = ["under-load", "turning-parts", "hot-exhaust"];

interface Draft {
  rpm: string;
  sea: string;
  instrument: InstrumentID;
  typed: Record<string, string>;
  words: string;
}

const empty: Draft = { rpm: "", sea: "", instrument: "contact", typed: {}, words: "" };

/** What is typed outlives a reload, until it is kept. */
function useDraft(job: string) {
  const shelf = `hevrin.round.${job}`;
  const [draft, setDraft] = useState<Draft>(() => {
    try {
      return { ...empty, ...(JSON.parse(localStorage.getItem(shelf) ?? "{}") as Partial<Draft>) };
    } catch {
      return empty;
    }
  });
  useEffect(() => localStorage.setItem(shelf, JSON.stringify(draft)), [shelf, draft]);
  const forget = () => localStorage.removeItem(shelf);
  return { draft, forget, set: (d: Partial<Draft>) => setDraft((was) => ({ ...was, ...d })) };
}

const engineOf = (page: JobPage): PlantEngine => {
  const { family, fuel, rated_kw, rated_rpm, thermostat_c, circuit } = page.engine;
  return { family, fuel, rated_kw, rated_rpm, thermostat_c, circuit };
};

function Round({ catalogue, page, units }: { catalogue: Catalogue; page: JobPage; units: Units }) {
  const words = wordsOf(catalogue);
  const system = useSystem();
  const { draft, set, forget } = useDraft(page.card.id);
  const { state, places, round, health, refused, operation } = useRound(page, draft, units);
  const read = round?.readings.length ?? 0;
  return (
    <Box component="main" sx={{ maxWidth: 1240, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2, pb: 12 }}>
      <Button component={Link} to={`/jobs/${page.card.id}`} sx={{ px: 0 }}>
        ← {page.craft.name}, {page.engine.name}
      </Button>
      <Typography variant="h1">A round of readings</Typography>
      <Typography sx={{ color: "text.secondary" }}>
        In gear, hold one speed until nothing moves any more, then go along the water. Skip what you cannot reach.
      </Typography>
      <Box sx={{ mt: 1.5 }}>
        <Cautions ids={aboutRunning} />
      </Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1.1fr) minmax(0, 1fr)" },
          gap: { xs: 2.5, md: 4 },
          mt: 1.5,
          alignItems: "start",
        }}
      >
        <Box
          component="section"
          aria-label="What was read"
          sx={{ bgcolor: "background.paper", borderRadius: 1, px: { xs: 1.25, md: 2 }, py: 1 }}
        >
          <Line label="Speed" unit="rev/min" text={draft.rpm} onGive={(rpm) => set({ rpm })} />
          <Line
            label="Sea"
            unit={units.shownAs("degC", system)?.symbol ?? "°C"}
            text={draft.sea}
            onGive={(sea) => set({ sea })}
          />
          <Instruments chosen={draft.instrument} onChoose={(instrument) => set({ instrument })} />
          {refused && <Alert severity="error">{refused}</Alert>}
          {!operation && (
            <Typography sx={{ py: 1 }}>
              With speed and sea temperature Hevrin says what each place should read.
            </Typography>
          )}
          {places.map((p) => (
            <PlaceLine
              key={p.key}
              {...{ place: p, units, system }}
              label={p.station === "flow" ? "Raw water, bucket and watch" : words.station(p.station)}
              instrument={draft.instrument}
              text={draft.typed[p.key] ?? ""}
              onGive={(t) => set({ typed: { ...draft.typed, [p.key]: t } })}
            />
          ))}
        </Box>
        <Stack sx={{ gap: 2.5, position: { md: "sticky" }, top: 12 }}>
          {round && state && (
            <PathPicture round={withErrors(round)} should={state.readings} {...{ words, units, system }} />
          )}
          {read > 0 && health && <HealthWords health={health} />}
          {read > 0 && (
            <Keep page={page} round={round} draft={draft} onWords={(w) => set({ words: w })} onKept={forget} />
          )}
        </Stack>
      </Box>
    </Box>
  );
}

/** What should be read at the operation that was typed, the round as it stands, and what it says. */
function useRound(page: JobPage, draft: Draft, units: Units) {
  const system = useSystem();
  const engine = useMemo(() => engineOf(page), [page]);
  const operation = useMemo((): Schemas["Operation"] | undefined => {
    const [rpm, sea] = [Number(draft.rpm), typedNumber(draft.sea, "degC", units, system)];
    return rpm > 0 && sea !== undefined ? { rpm, sea_c: sea } : undefined;
  }, [draft.rpm, draft.sea, units, system]);
  const should = useShould(engine, useDeferredValue(operation));
  const state = should.isError ? undefined : should.data;
  const places = useMemo(() => (state ? placesOf(state, engine.family === "direct") : []), [state, engine]);
  const round = useMemo(
    () => operation && roundOf(operation, draft.typed, places, draft.instrument, units, system),
    [operation, draft.typed, draft.instrument, places, units, system],
  );
  const health = useHealth(engine, useDeferredValue(round));
  const refused = should.error instanceof Refused ? should.error.problem.detail : undefined;
  return { state, places, round, refused, operation, health: health.isError ? undefined : health.data };
}

/** The errors that the program will take, for the bands of the picture. */
const withErrors = (r: Schemas["PlantRound"]): Schemas["PlantRound"] => ({
  ...r,
  readings: r.readings.map((x) => ({ ...x, error: x.instrument === "contact" ? 1 : 2 })),
});

function Instruments({ chosen, onChoose }: { chosen: InstrumentID; onChoose: (i: InstrumentID) => void }) {
  const options: [InstrumentID, string][] = [
    ["contact", "Contact probe"],
    ["surface", "Surface thermometer"],
  ];
  return (
    <Stack
      direction="row"
      role="group"
      aria-label="Read with"
      sx={{ gap: 0.75, py: 1, flexWrap: "wrap", alignItems: "center", borderBottom: 1, borderColor: "divider" }}
    >
      {options.map(([id, label]) => (
        <Button key={id} aria-pressed={chosen === id} onClick={() => onChoose(id)} sx={pick(chosen === id)}>
          {label}
        </Button>
      ))}
      {chosen === "surface" && (
        <Typography variant="body2" sx={{ color: "text.secondary", flexBasis: "100%" }}>
          Tape or paint on bare metal first, and read that:{" "}
          <Link to="/sums/surface-thermometer">what is the surface really at?</Link>
        </Typography>
      )}
    </Stack>
  );
}

function Line(p: {
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

function PlaceLine(p: {
  place: Place;
  label: string;
  instrument: InstrumentID;
  text: string;
  units: Units;
  system: Parameters<typeof shown>[1];
  onGive: (t: string) => void;
}) {
  const { place, units, system } = p;
  const value = typedNumber(p.text, place.unit, units, system);
  const stands = value === undefined ? undefined : standing(place, value, p.instrument);
  const band = bandOf(place, p.instrument);
  const wrong = p.text.trim() !== "" && value === undefined;
  const gauge = place.station === "gauge";
  return (
    <Line
      label={place.side && !gauge ? `${p.label}, ${sideWords[place.side]}` : p.label}
      unit={units.shownAs(place.unit, system)?.symbol ?? ""}
      text={p.text}
      wrong={wrong || (stands !== undefined && stands !== "right")}
      onGive={p.onGive}
      below={
        <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.3 }}>
          {band &&
            `should be ${bare(shown(units, system, band[0], place.unit))} to ${shown(units, system, band[1], place.unit)}`}
          {stands && (
            <Box component="strong" sx={{ color: stands === "right" ? "text.primary" : "error.main" }}>
              {"; "}
              {standingWords[stands]}
            </Box>
          )}
          {wrong && (
            <Box component="strong" sx={{ color: "error.main" }}>
              {"; "}type a number
            </Box>
          )}
        </Typography>
      }
    />
  );
}

function Keep(p: {
  page: JobPage;
  round?: Schemas["PlantRound"];
  draft: Draft;
  onWords: (w: string) => void;
  onKept: () => void;
}) {
  const { noteInJob, undo } = useKeep();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const keep = () => {
    if (!name) return setAsking(true);
    const entry = { kind: "round" as const, round: p.round, words: p.draft.words.trim() || undefined };
    noteInJob(p.page.card.id, entry, "Round kept").then((id) => {
      p.onKept();
      kept("Round kept", () => void undo(id).then(() => kept("Taken back"), failed));
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
        Keep the round
      </Button>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Stack>
  );
}
