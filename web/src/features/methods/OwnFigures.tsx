import { Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { PlainTable } from "../../ui/PlainTable";
import { percent } from "../../ui/stations";
import { day, minutes, type Words } from "../../ui/words";

type Hindsight = Schemas["Hindsight"];

export interface FiguresProps {
  hindsight: Hindsight;
  words: Words;
  may: boolean;
  onWrite: (entry: Omit<Schemas["MethodEntry"], "by">, label: string) => void;
}

const ofRates =
  "How common each fault is before anything is seen. The catalogue's counts as much as twenty of your jobs, " +
  "so that a few do not turn it round.";
const ofMinutes =
  "What looks took against what was forecast. One look counts half, two count two thirds; " +
  "from three on they count alone.";

/** How often each fault was the cause in the yard's own jobs, beside the catalogue's base rate. */
export function OwnRates(p: FiguresProps) {
  const { hindsight: h, words } = p;
  const own = Object.fromEntries(h.rates.map((r) => [r.fault, Number(r.own.toFixed(5))]));
  return (
    <Own {...p} what="rates" title="Base rates" say={ofRates} own={own} now={h.figures.rates}>
      <Shortened of={h.rates} first={h.rates.filter((r) => r.confirmed > 0).length}>
        {(list) => (
          <PlainTable head={["Fault", "Was the cause", "Catalogue", "Yours"]}>
            {list.map((r) => (
              <tr key={r.fault}>
                <td>{words.fault(r.fault)}</td>
                <td>{`${Number(r.confirmed.toFixed(1))} of ${r.jobs}`}</td>
                <td>{percent(r.catalogue)}</td>
                <td>{percent(r.own)}</td>
              </tr>
            ))}
          </PlainTable>
        )}
      </Shortened>
    </Own>
  );
}

/** What checks and accesses took in the yard's own hands, beside the catalogue's minutes. */
export function OwnMinutes(p: FiguresProps) {
  const { hindsight: h, words } = p;
  const own = Object.fromEntries(h.minutes.map((t) => [t.id, t.own]));
  return (
    <Own {...p} what="minutes" title="Minutes" say={ofMinutes} own={own} now={h.figures.minutes}>
      <Shortened of={h.minutes} first={8}>
        {(list) => (
          <PlainTable head={["Check or access", "Timed", "Catalogue", "Yours"]}>
            {list.map((t) => (
              <tr key={t.id}>
                <td>{t.access ? words.access(t.id) : words.check(t.id)}</td>
                <td>{t.times}</td>
                <td>{minutes(t.catalogue)}</td>
                <td>{minutes(t.own)}</td>
              </tr>
            ))}
          </PlainTable>
        )}
      </Shortened>
    </Own>
  );
}

/** The first rows of a table, and all of them at a touch. */
function Shortened<T>({ of, first, children }: { of: T[]; first: number; children: (list: T[]) => React.ReactNode }) {
  const [all, setAll] = useState(false);
  return (
    <>
      {children(all ? of : of.slice(0, first))}
      {!all && of.length > first && (
        <Button onClick={() => setAll(true)} sx={{ px: 0 }}>
          {`Show all ${of.length}`}
        </Button>
      )}
    </>
  );
}

interface OwnProps extends FiguresProps {
  what: "rates" | "minutes";
  title: string;
  say: string;
  /** What the yard's own jobs say today, and what it goes by now; nothing: the catalogue. */
  own: Record<string, number>;
  now: Record<string, number>;
  children: React.ReactNode;
}

/** A kind of figure: what is known, and a choice that nobody makes for the yard. */
function Own({ hindsight: h, may, onWrite, what, title, say, own, now, children }: OwnProps) {
  const chosen = h.figures.chosen.find((c) => c.what === what);
  const some = Object.keys(own).length > 0;
  const moved = chosen && some && !sameFigures(own, now);
  return (
    <Box component="section" aria-label={title}>
      <Typography variant="h2">{title}</Typography>
      <Typography sx={{ color: "text.secondary", mb: 1 }}>{say}</Typography>
      {some ? children : <Typography>Nothing to go by yet.</Typography>}
      <Typography sx={{ fontWeight: 650, mt: 1 }}>
        {chosen
          ? `The yard goes by its own: ${chosen.by} chose so on ${day(chosen.at)}.`
          : "The yard goes by the catalogue."}
      </Typography>
      <Stack direction="row" sx={{ gap: 1, mt: 0.5, flexWrap: "wrap" }}>
        {some && (!chosen || moved) && (
          <Button
            variant="outlined"
            disabled={!may}
            onClick={() => onWrite({ kind: "figures", figures: { what, values: own } }, `${title}: the yard's own`)}
          >
            {chosen ? "Take those of today" : "Go by your own"}
          </Button>
        )}
        {chosen && (
          <Button
            disabled={!may}
            onClick={() => onWrite({ kind: "figures", figures: { what } }, `${title}: the catalogue's`)}
          >
            Go by the catalogue again
          </Button>
        )}
      </Stack>
    </Box>
  );
}

const sameFigures = (a: Record<string, number>, b: Record<string, number>) =>
  Object.keys(a).length === Object.keys(b).length && Object.entries(a).every(([id, x]) => b[id] === x);
