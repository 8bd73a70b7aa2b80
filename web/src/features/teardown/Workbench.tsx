import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { Link } from "react-router";
import type { JobPage, Schemas } from "../../api/client";
import type { Words } from "../../ui/words";
import { verdictWords, type Act } from "../../ui/job/teardown";
import { PieceLedger } from "../../ui/job/PieceLedger";
import { useUnkept } from "../../ui/unkept";
import { WheelBench } from "./Wheel";
import { ChoiceButton } from "../../ui/ChoiceButton";

const number = (t: string) => (t.trim() === "" ? undefined : Number(t.replace(",", ".")));

/** What was taken off, looked at and measured: impeller, rubber, body, leaks, elbow, thermostat. */
export function Workbench({ page, words, onAct }: { page: JobPage; words: Words; onAct: Act }) {
  const { hands, engine } = page;
  const job = page.card.id;
  const has = (s: string) => engine.circuit.includes(s);
  return (
    <Stack sx={{ gap: 3.5 }}>
      {has("raw-pump") && <WheelBench job={job} hands={hands} onAct={onAct} />}
      <PieceLedger hands={hands} words={words} onAct={onAct} />
      {has("raw-pump") && <PumpBody job={job} hands={hands} onAct={onAct} />}
      {has("raw-pump") && <Leaks hands={hands} onAct={onAct} />}
      {has("elbow") && <Elbow job={job} hands={hands} onAct={onAct} />}
      <Box component="section" aria-label="Calculators for the bench">
        <Typography variant="h2">Also on the bench</Typography>
        {[
          ["thermostat-pot", "Thermostat in the pot"],
          ["impeller-fit", "Does the new impeller fit?"],
          ["repair-choice", "What to fit: kit, copy, whole pump"],
        ].map(([sum, label]) => (
          <Button
            key={sum}
            component={Link}
            to={`/calculators/${sum ?? ""}?job=${page.card.id}`}
            sx={{ display: "flex", px: 0, width: "fit-content" }}
          >
            {label}
          </Button>
        ))}
      </Box>
    </Stack>
  );
}

const depths = [
  ["cam_mm", "Cam, mm"],
  ["plate_mm", "Plate, mm"],
  ["cover_mm", "Cover, mm"],
] as const;

interface BenchProps {
  job: string;
  hands: Schemas["Teardown"];
  onAct: Act;
}

function PumpBody({ job, hands, onAct }: BenchProps) {
  const [draft, setDraft, forget] = useUnkept(job, "The pump's body", {
    text: Object.fromEntries(depths.map(([k]) => [k, hands.body ? String(hands.body[k]) : ""])) as Record<
      string,
      string
    >,
    turned: hands.body?.cover_turned ?? false,
    drive: hands.body?.drive,
    play: hands.body?.drive ? String(hands.body.drive_play_mm ?? 0) : "",
  });
  const { text, turned, drive, play } = draft;
  const ready =
    depths.every(([k]) => Number.isFinite(number(text[k] ?? ""))) && (!drive || Number.isFinite(number(play)));
  const keep = () => {
    const [cam_mm, plate_mm, cover_mm] = depths.map(([k]) => number(text[k] ?? "") ?? 0) as [number, number, number];
    const driven = drive && { drive, drive_play_mm: number(play) ?? 0 };
    onAct({ do: "body", body: { cam_mm, plate_mm, cover_mm, cover_turned: turned, ...driven } }, "Pump body saved");
    forget();
  };
  return (
    <Box component="section" aria-label="Pump body">
      <Typography variant="h2">The pump&apos;s body</Typography>
      <Typography sx={{ color: "text.secondary", mb: 1 }}>
        Depth of wear at the cam, the wear plate and the cover. A nail feels a lip; a depth gauge or a straight edge
        measures it.
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 1 }}>
        {depths.map(([k, label]) => (
          <TextField
            key={k}
            label={label}
            value={text[k] ?? ""}
            onChange={(e) => setDraft({ ...draft, text: { ...text, [k]: e.target.value } })}
            sx={{ bgcolor: "background.paper" }}
            slotProps={{ htmlInput: { inputMode: "decimal", maxLength: 8 } }}
          />
        ))}
      </Box>
      <Drive drive={drive} play={play} onChange={(to) => setDraft({ ...draft, ...to })} />
      <Stack direction="row" sx={{ gap: 1, mt: 1, flexWrap: "wrap" }}>
        <ChoiceButton aria-pressed={turned} onClick={() => setDraft({ ...draft, turned: !turned })} data-on={turned}>
          Cover was turned before
        </ChoiceButton>
        <Button variant="contained" onClick={keep} disabled={!ready}>
          Save the measures
        </Button>
      </Stack>
      {hands.body_says.map((w) => (
        <Typography key={w} sx={{ mt: 0.5 }}>
          {w}.
        </Typography>
      ))}
      {hands.idle_share !== undefined && (
        <Typography sx={{ fontWeight: 700, mt: 0.5 }}>
          At idle it moves about {Math.round(100 * hands.idle_share)} % of what a sound pump does.
        </Typography>
      )}
    </Box>
  );
}

type Driven = NonNullable<Schemas["PumpBody"]["drive"]>;

const drives: [Driven, string][] = [
  ["key", "Key"],
  ["tang", "Tang"],
  ["spline", "Spline"],
  ["gear", "Gear"],
];

/** How the pump is driven, and its play, where somebody felt for it. */
function Drive(p: { drive?: Driven; play: string; onChange: (to: { drive?: Driven; play?: string }) => void }) {
  return (
    <Box role="group" aria-label="Play of the drive" sx={{ mt: 1 }}>
      <Typography sx={{ color: "text.secondary" }}>
        Play of the drive: hold the shaft, turn the wheel to and fro, and read it at the rim.
      </Typography>
      <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap", alignItems: "center", mt: 0.5 }}>
        {drives.map(([id, label]) => (
          <ChoiceButton
            key={id}
            aria-pressed={p.drive === id}
            data-on={p.drive === id}
            onClick={() => p.onChange({ drive: p.drive === id ? undefined : id })}
          >
            {label}
          </ChoiceButton>
        ))}
        {p.drive && (
          <TextField
            label="Play, mm"
            value={p.play}
            onChange={(e) => p.onChange({ play: e.target.value })}
            sx={{ bgcolor: "background.paper", width: 130 }}
            slotProps={{ htmlInput: { inputMode: "decimal", maxLength: 8 } }}
          />
        )}
      </Stack>
    </Box>
  );
}

const places = [
  ["cover", "at the cover's edge"],
  ["weep-water", "water at the weep hole"],
  ["weep-oil", "oil at the weep hole"],
  ["flange", "at the mounting face"],
  ["shaft", "play or grit at the shaft"],
  ["milky-oil", "milky oil"],
] as const;

function Leaks({ hands, onAct }: { hands: Schemas["Teardown"]; onAct: Act }) {
  const toggle = (id: string) => {
    const leaks = hands.leaks.includes(id) ? hands.leaks.filter((x) => x !== id) : [...hands.leaks, id];
    onAct({ do: "leaks", leaks }, "Leaks saved");
  };
  return (
    <Box component="section" aria-label="Where it is wet">
      <Typography variant="h2" sx={{ mb: 0.75 }}>
        Where the pump is wet
      </Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
        {places.map(([id, label]) => (
          <ChoiceButton
            key={id}
            aria-pressed={hands.leaks.includes(id)}
            onClick={() => toggle(id)}
            data-on={hands.leaks.includes(id)}
          >
            {label}
          </ChoiceButton>
        ))}
        <ChoiceButton onClick={() => onAct({ do: "leaks", leaks: [] }, "Dry everywhere")}>dry everywhere</ChoiceButton>
      </Stack>
      {hands.leak_says.length > 0 && (
        <Box component="ul" aria-label="What to fit" sx={{ my: 0.75, pl: 2.5 }}>
          {hands.leak_says.map((l) => (
            <li key={l.place}>
              {l.say.charAt(0).toUpperCase() + l.say.slice(1)}: <strong>{l.kit}</strong>
            </li>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Elbow({ job, hands, onAct }: BenchProps) {
  const [draft, setDraft, forget] = useUnkept(job, "The exhaust elbow", {
    bore: hands.elbow ? String(hands.elbow.bore_mm) : "",
    fresh: hands.elbow ? String(hands.elbow.new_bore_mm) : "",
    pitted: hands.elbow?.pitted ?? false,
    cracked: hands.elbow?.cracked ?? false,
    face_bad: hands.elbow?.face_bad ?? false,
  });
  const { bore, fresh, ...bad } = draft;
  const [b, f] = [number(bore), number(fresh)];
  const flags = [
    ["pitted", "pitted through"],
    ["cracked", "cracked"],
    ["face_bad", "face not flat"],
  ] as const;
  return (
    <Box component="section" aria-label="Elbow">
      <Typography variant="h2" sx={{ mb: 1 }}>
        The exhaust elbow
      </Typography>
      <Stack direction="row" sx={{ gap: 1 }}>
        <TextField
          label="Bore at the narrowest, mm"
          value={bore}
          onChange={(e) => setDraft({ ...draft, bore: e.target.value })}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
        <TextField
          label="Bore when new, mm"
          value={fresh}
          onChange={(e) => setDraft({ ...draft, fresh: e.target.value })}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
      </Stack>
      <Stack direction="row" sx={{ gap: 0.75, mt: 1, flexWrap: "wrap" }}>
        {flags.map(([k, label]) => (
          <ChoiceButton
            key={k}
            aria-pressed={bad[k]}
            onClick={() => setDraft({ ...draft, [k]: !bad[k] })}
            data-on={bad[k]}
          >
            {label}
          </ChoiceButton>
        ))}
        <Button
          variant="contained"
          disabled={!(b !== undefined && f !== undefined && f > 0)}
          onClick={() => {
            onAct({ do: "elbow", elbow: { bore_mm: b ?? 0, new_bore_mm: f ?? 0, ...bad } }, "Elbow saved");
            forget();
          }}
        >
          Save the elbow
        </Button>
      </Stack>
      {hands.elbow_verdict && (
        <Typography sx={{ fontWeight: 700, mt: 1 }}>
          {verdictWords[hands.elbow_verdict] ?? "Fit a new one"}: {hands.elbow_says.join("; ")}.
        </Typography>
      )}
    </Box>
  );
}
