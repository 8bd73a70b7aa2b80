import {
  Box,
  Button,
  FormControlLabel,
  LinearProgress,
  Stack,
  Switch,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { beginPracticeBench, stopPracticeBench, type Catalogue, type Schemas } from "../../api/client";
import { newID } from "../../api/ids";
import { keys } from "../../api/keys";
import { useCatalogue, usePracticeBench, usePracticeHome } from "../../api/queries";
import { writer } from "../../api/writer";
import { Loaded } from "../../ui/Loaded";
import { ScreenHead } from "../../ui/ScreenHead";
import { useTitle } from "../../ui/title";
import { minutes, wordsOf } from "../../ui/words";
import { OwnMinutes } from "./OwnMinutes";
import { Pick } from "./Pick";

type Bench = Schemas["PracticeBench"];

/** A yard's own way of searching, played against many practice jobs beside the program's. */
export function BenchScreen() {
  const home = usePracticeHome();
  const catalogue = useCatalogue();
  const bench = usePracticeBench().data;
  useTitle("Bench of methods");
  return (
    <Box component="main" sx={{ maxWidth: 1080, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Button component={Link} to="/practice" sx={{ px: 0 }}>
        ← Practice
      </Button>
      <ScreenHead title="Your way against the program's" drawing="practice">
        Say which looks your yard makes first. Both are played against the same drawn engines, in the background.
      </ScreenHead>
      <Loaded query={catalogue}>
        {(c) => (
          <Loaded query={home}>{(h) => <Choose home={h} catalogue={c} playing={bench?.over === false} />}</Loaded>
        )}
      </Loaded>
      {bench && catalogue.data && <Came bench={bench} catalogue={catalogue.data} />}
    </Box>
  );
}

const counts = [50, 200, 1000];

interface ChooseProps {
  home: Schemas["PracticeHome"];
  catalogue: Catalogue;
  playing: boolean;
}

function Choose({ home, catalogue, playing }: ChooseProps) {
  const cache = useQueryClient();
  const [kind, setKind] = useState(home.kinds[0]?.id ?? "");
  const [level, setLevel] = useState(home.levels[0]?.id ?? "");
  const [jobs, setJobs] = useState(counts[1] ?? 200);
  const [order, setOrder] = useState<string[]>([]);
  const [huntOn, setHuntOn] = useState(false);
  const [own, setOwn] = useState<Record<string, number>>({});
  const [failed, setFailed] = useState<string>();
  const words = wordsOf(catalogue);
  const begin = () => {
    setFailed(undefined);
    beginPracticeBench(newID(), {
      by: writer.by(),
      kind: kind as Schemas["PracticeKindID"],
      level: level as Schemas["PracticeLevelID"],
      jobs,
      order,
      hunt_on: huntOn,
      minutes: own,
    }).then(
      (b) => void cache.setQueryData(keys.practiceBench(), b),
      (e: unknown) => setFailed(e instanceof Error ? e.message : "It could not be begun: try again."),
    );
  };
  const stop = () => void stopPracticeBench().then((b) => void cache.setQueryData(keys.practiceBench(), b));
  return (
    <Box
      component="section"
      aria-label="Your way"
      sx={{ bgcolor: "background.paper", borderRadius: 1, p: { xs: 1.5, md: 2 } }}
    >
      <Typography variant="h2">Your looks, in your order</Typography>
      <Box component="ol" sx={{ pl: 3, my: 1 }}>
        {order.map((id) => (
          <li key={id}>
            {words.check(id)}
            <Button
              aria-label={`Take out: ${words.check(id)}`}
              onClick={() => setOrder((was) => was.filter((x) => x !== id))}
              sx={{ minWidth: 48, ml: 1 }}
            >
              Take out
            </Button>
          </li>
        ))}
      </Box>
      <Stack direction="row" sx={{ gap: 1.5, flexWrap: "wrap", alignItems: "center" }}>
        <Pick
          label={order.length === 0 ? "The first look" : "The next look"}
          value=""
          of={catalogue.checks
            .filter((k) => !order.includes(k.id) && k.id !== "sister-look" && !k.asks)
            .map((k) => [k.id, k.label])}
          onPick={(id) => setOrder((was) => [...was, id])}
        />
        <FormControlLabel
          control={<Switch checked={huntOn} onChange={(e) => setHuntOn(e.target.checked)} />}
          label="Look on until nothing else is likely, then put right"
        />
      </Stack>
      <OwnMinutes catalogue={catalogue} own={own} onOwn={setOwn} />
      <Stack direction="row" sx={{ gap: 1.5, flexWrap: "wrap", alignItems: "center", mt: 3 }}>
        <Pick label="Engine" value={kind} of={home.kinds.map((k) => [k.id, k.label])} onPick={setKind} />
        <Pick label="How hard" value={level} of={home.levels.map((l) => [l.id, l.label])} onPick={setLevel} />
        <Pick
          label="Jobs"
          value={String(jobs)}
          of={counts.map((n) => [String(n), String(n)])}
          onPick={(n) => setJobs(Number(n))}
        />
        <Button variant="contained" onClick={begin} disabled={playing}>
          Play them
        </Button>
        {playing && <Button onClick={stop}>Stop</Button>}
      </Stack>
      {failed && (
        <Typography role="alert" sx={{ mt: 1, fontWeight: 700 }}>
          {failed}
        </Typography>
      )}
    </Box>
  );
}

const rows: [string, (t: Schemas["PracticeTally"]) => string][] = [
  ["Looks, a job", (t) => minutes(t.looking)],
  ["One job in ten, at least", (t) => minutes(t.slowest)],
  ["All of it, waits and proof too", (t) => minutes(t.minutes)],
  ["Opened, a job", (t) => t.opened.toFixed(1)],
  ["Cost of the time", (t) => String(Math.round(t.cost))],
  ["Came back although proved", (t) => share(t.comebacks, t.jobs)],
  ["Proved cured in the end", (t) => share(t.cured, t.jobs)],
];

const share = (n: number, of: number) => (of === 0 ? "–" : `${((100 * n) / of).toFixed(1)} %`);

/** How far it has come, both beside each other. */
function Came({ bench, catalogue }: { bench: Bench; catalogue: Catalogue }) {
  const words = wordsOf(catalogue);
  const done = bench.own.jobs;
  return (
    <Box component="section" aria-label="What came of it" sx={{ mt: 3 }}>
      <Typography variant="h2">What came of it</Typography>
      <Typography aria-live="polite">
        {done} of {bench.jobs} jobs{bench.over ? (bench.failed ? `: ${bench.failed}` : "") : ", it goes on"}.
        {bench.order.length > 0 && ` First ${bench.order.map((id) => words.check(id).toLowerCase()).join(", then ")}.`}
        {bench.hunt_on && " Looked on until nothing else was likely."}
        {Object.entries(bench.minutes).map(([id, m]) => ` ${words.check(id)} in ${minutes(m)}.`)}
      </Typography>
      {!bench.over && (
        <LinearProgress
          variant="determinate"
          aria-label="Jobs played"
          value={(100 * done) / bench.jobs}
          sx={{ height: 10, my: 1 }}
        />
      )}
      {done > 0 && (
        <Table size="small" sx={{ maxWidth: 640, mt: 1 }}>
          <TableHead>
            <TableRow>
              <TableCell />
              <TableCell align="right">Your way</TableCell>
              <TableCell align="right">The program&apos;s</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map(([label, of]) => (
              <TableRow key={label}>
                <TableCell component="th" scope="row">
                  {label}
                </TableCell>
                <TableCell align="right" sx={{ fontWeight: 700 }}>
                  {of(bench.own)}
                </TableCell>
                <TableCell align="right">{of(bench.program)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Box>
  );
}
