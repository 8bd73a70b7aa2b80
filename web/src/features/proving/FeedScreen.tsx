import { Alert, Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { Refused, type Schemas } from "../../api/client";
import { useCatalogue, useEngine, useLivePage, useCalculators } from "../../api/queries";
import { useSave } from "../../api/writes";
import { Loaded } from "../../ui/Loaded";
import { feedWords, placeKey, placeWords } from "./live";
import { useNotice } from "../../ui/notices";
import { useWriter } from "../../ui/Shell";
import { ScreenHead } from "../../ui/ScreenHead";
import { WhoDialog } from "../../ui/WhoDialog";
import { useSystem } from "../../ui/unitSystem";
import { digits, shown, unitsOf, type Units } from "../../ui/units";
import { numberOf } from "../../ui/job/wetwork";
import { wordsOf, type Words } from "../../ui/words";
import { useTitle } from "../../ui/title";

/** The gateway of an engine: where it is, what it tells, and what each of its channels is mounted on. */
export function FeedScreen() {
  useTitle("Gateway");
  const { id = "" } = useParams();
  const engine = useEngine(id);
  const catalogue = useCatalogue();
  const sums = useCalculators();
  return (
    <Loaded query={catalogue}>
      {(c) => (
        <Loaded query={sums}>
          {(s) => (
            <Loaded query={engine}>
              {(page) => <Gateway page={page} words={wordsOf(c)} units={unitsOf(s.units)} />}
            </Loaded>
          )}
        </Loaded>
      )}
    </Loaded>
  );
}

/** What is said of a channel: the place that it is mounted on, or none; and what is added to what it tells. */
interface Said {
  place: string;
  offset: string;
}

const ofThisMachine = /^(localhost|127\.|\[::1\])/;

/** What is heard at an address, why it is refused, and how the line stands in words. */
function useTried(engine: string, address: string) {
  const live = useLivePage(engine, address);
  const heard = live.data && address ? live.data : undefined;
  const refusal = live.error instanceof Refused ? (live.error.problem.errors?.[0]?.say ?? live.error.message) : "";
  const standing = heard?.status && feedWords({ status: heard.status, tracks: [], limits: [], cut: live.isError });
  return { heard, refusal, standing };
}

function Gateway({ page, words, units }: { page: Schemas["EnginePage"]; words: Words; units: Units }) {
  const { engine, craft } = page;
  const [typed, setTyped] = useState(engine.feed?.address ?? "127.0.0.1:10110");
  const [address, setAddress] = useState(engine.feed?.address ?? "");
  const [said, setSaid] = useState<Record<string, Said>>({});
  const { heard, refusal, standing } = useTried(engine.id, address);
  const { saveFeed } = useSave();
  const { failed } = useNotice();
  // one that is not of this machine is listened to once it is saved as this engine's
  const listen = async (to: string) => {
    try {
      if (to !== engine.feed?.address && !ofThisMachine.test(to))
        await saveFeed(engine.id, { address: to, channels: engine.feed?.channels ?? [] });
      setAddress(to);
    } catch (e) {
      failed(e);
    }
  };
  return (
    <Box component="main" sx={{ maxWidth: 1000, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2, pb: 12 }}>
      <Button component={Link} to={`/engines/${engine.id}`} sx={{ px: 0 }}>
        ← {craft.name}, {engine.name}
      </Button>
      <ScreenHead title="The gateway" drawing="gateway">
        A gateway aboard that speaks NMEA 0183 over TCP. Say once what each channel is mounted on; every run and round
        reads from it then.
      </ScreenHead>
      <Stack
        component="form"
        direction="row"
        sx={{ gap: 1, alignItems: "flex-start" }}
        onSubmit={(e) => {
          e.preventDefault();
          void listen(typed.trim());
        }}
      >
        <TextField
          label="Address and port"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          error={refusal !== ""}
          helperText={refusal}
          sx={{ flex: 1, maxWidth: 420, bgcolor: "background.paper" }}
        />
        <Button type="submit" variant="contained" sx={{ minHeight: 56 }}>
          Listen
        </Button>
      </Stack>
      {!standing && !engine.feed && (
        <Box component="ol" sx={{ mt: 2, pl: 3, maxWidth: 560, "& li": { mb: 0.75 } }}>
          <li>Join the boat&apos;s own network. The gateway&apos;s display or manual gives its address and port.</li>
          <li>Listen: each channel appears with what it reads now.</li>
          <li>Say what each is mounted on, as the hand finds it: warm one and see which moves.</li>
        </Box>
      )}
      {standing && (
        <Alert
          severity={heard?.status?.state === "lost" ? "error" : "info"}
          icon={false}
          role="status"
          sx={{ mt: 1.5 }}
        >
          <strong>{standing}</strong>
        </Alert>
      )}
      {heard && !refusal && (
        <Channels key={address} {...{ heard, engine, words, units, said, setSaid }} address={address} />
      )}
    </Box>
  );
}

const keyed = (p?: Schemas["Place"]) => (p ? placeKey(p) : "");

function Channels(p: {
  heard: Schemas["LivePage"];
  engine: Schemas["Engine"];
  address: string;
  words: Words;
  units: Units;
  said: Record<string, Said>;
  setSaid: (s: Record<string, Said>) => void;
}) {
  const { heard, engine, said } = p;
  const { saveFeed } = useSave();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const [asking, setAsking] = useState(false);
  const mapped = engine.feed?.channels ?? [];
  const silent = mapped.filter((m) => !heard.heard.some((h) => h.channel === m.channel));
  const fresh = mapped.length === 0;
  const sayOf = (channel: string, place?: Schemas["Place"], guess?: Schemas["Place"]): Said =>
    said[channel] ?? {
      place: keyed(place) || (fresh ? keyed(guess) : ""),
      offset: String(mapped.find((m) => m.channel === channel)?.offset ?? ""),
    };
  const rows = [
    ...heard.heard.map((h) => ({ ...h, say: sayOf(h.channel, h.place, h.guess) })),
    ...silent.map((m) => ({
      channel: m.channel,
      unit: "",
      value: undefined,
      ago_s: 0,
      count: 0,
      say: sayOf(m.channel, m.place),
    })),
  ];
  const twice = rows.filter((r) => r.say.place && rows.some((x) => x !== r && x.say.place === r.say.place));
  const keep = () => {
    if (!name) return setAsking(true);
    const channels = rows.flatMap((r): Schemas["FeedChannel"][] => {
      const offered = heard.places.find((o) => placeKey(o.place) === r.say.place);
      const offset = numberOf(r.say.offset);
      const error = mapped.find((m) => m.channel === r.channel)?.error;
      return offered
        ? [{ channel: r.channel, place: offered.place, ...(offset && { offset }), ...(error && { error }) }]
        : [];
    });
    saveFeed(engine.id, { address: p.address, channels }).then(() => kept("Gateway saved"), failed);
  };
  return (
    <Box component="section" aria-label="Channels" sx={{ mt: 2 }}>
      {rows.length === 0 && <Typography>No channel was heard yet.</Typography>}
      {rows.map((r) => (
        <Row
          key={r.channel}
          row={r}
          places={heard.places}
          twice={twice.includes(r)}
          {...{ words: p.words, units: p.units }}
          onSay={(s) => p.setSaid({ ...said, [r.channel]: s })}
        />
      ))}
      {twice.length > 0 && (
        <Alert severity="warning" sx={{ mt: 1 }}>
          Two channels are said to be at the same place: take one of them away.
        </Alert>
      )}
      {rows.length > 0 && (
        <Button
          variant="contained"
          disabled={twice.length > 0 || rows.every((r) => r.say.place === "")}
          onClick={keep}
          sx={{ mt: 2, minHeight: 56, width: { xs: "100%", sm: "auto" } }}
        >
          Save the gateway
        </Button>
      )}
      {heard.status && <Passed status={heard.status} />}
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Box>
  );
}

/** What came and could not be read: a line that ails shows here first. */
function Passed({ status }: { status: Schemas["FeedStatus"] }) {
  const list = Object.entries(status.passed);
  return (
    <Typography variant="body2" sx={{ color: "text.secondary", mt: 2 }}>
      {status.taken} readings taken{status.own_clock ? ", by the gateway's own clock" : ""}.
      {list.length > 0 && ` Passed over: ${list.map(([why, n]) => `${n} × ${why}`).join(", ")}.`}
    </Typography>
  );
}

function Row(p: {
  row: { channel: string; unit: string; value?: number; ago_s: number; count: number; say: Said };
  places: Schemas["OfferedPlace"][];
  twice: boolean;
  words: Words;
  units: Units;
  onSay: (s: Said) => void;
}) {
  const { row, units } = p;
  const system = useSystem();
  const unit = units.find(row.unit);
  const offered = p.places.filter((o) => row.unit === "" || units.find(o.unit)?.dimension === unit?.dimension);
  const now =
    row.value === undefined
      ? "not heard"
      : row.unit
        ? shown(units, system, row.value, row.unit)
        : digits(row.value, undefined);
  const place = p.places.find((o) => placeKey(o.place) === row.say.place);
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr) auto", md: "200px 120px minmax(0, 1fr) 130px" },
        gap: 1,
        alignItems: "center",
        borderTop: 1,
        borderColor: "divider",
        py: 1,
      }}
    >
      <Box>
        <Typography sx={{ fontWeight: 700 }}>{row.channel}</Typography>
        {row.value !== undefined && row.ago_s > 10 && (
          <Typography variant="body2" sx={{ color: "error.main" }}>
            silent for {Math.round(row.ago_s)} s
          </Typography>
        )}
      </Box>
      <Typography sx={{ fontWeight: 750, fontSize: "1.15rem", textAlign: { xs: "right", md: "left" } }}>
        {now}
      </Typography>
      {offered.length === 0 ? (
        <Typography variant="body2" sx={{ color: "text.secondary", gridColumn: { xs: "1 / -1", md: "auto / span 2" } }}>
          Heard, but there is no place for it yet.
        </Typography>
      ) : (
        <>
          <TextField
            select
            label="Mounted on"
            value={row.say.place}
            error={p.twice}
            onChange={(e) => p.onSay({ ...row.say, place: e.target.value })}
            sx={{ bgcolor: "background.paper" }}
          >
            <MenuItem value="">nothing that counts</MenuItem>
            {offered.map((o) => (
              <MenuItem key={placeKey(o.place)} value={placeKey(o.place)}>
                {placeWords(o.place, p.words)}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            label={`Add, ${place?.unit === "degC" ? "K" : (units.find(place?.unit ?? row.unit)?.symbol ?? "")}`}
            value={row.say.offset}
            disabled={row.say.place === ""}
            onChange={(e) => p.onSay({ ...row.say, offset: e.target.value })}
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
            sx={{ bgcolor: "background.paper", width: { xs: 96, md: "auto" } }}
          />
        </>
      )}
    </Box>
  );
}
