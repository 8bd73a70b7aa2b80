import { Box, Button, Stack } from "@mui/material";
import { useEffect, useRef, type ReactNode } from "react";
import { createPortal } from "react-dom";
import type { Catalogue, JobPage, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { Loaded } from "../../ui/Loaded";
import { useCalculators } from "../../api/queries";
import { HealthWords } from "../../ui/readings/HealthWords";
import { RoundFigures } from "../../ui/readings/RoundFigures";
import { nothingTyped, readAtCheck, useRound, type Typed } from "../../ui/readings/typed";
import { useUnkept } from "../../ui/unkept";
import { useSystem } from "../../ui/unitSystem";
import { unitsOf, type Units } from "../../ui/units";
import { wordsOf } from "../../ui/words";

interface Props {
  page: JobPage;
  catalogue: Catalogue;
  check: Schemas["Check"];
  /** How long it took, in minutes, and where that is said. */
  minutes: number;
  took: ReactNode;
  /** Where the buttons stand on a phone; undefined at a desk. */
  dock?: HTMLElement | null;
  onKeep: (entry: JobEntry, label: string) => void;
  /** By judgement, without an instrument. */
  onLeave: () => void;
}

/** A check that is read off: its figures are typed on its own card, held against this engine, and saved as a round. */
export function ReadOff(p: Props) {
  const sums = useCalculators();
  return <Loaded query={sums}>{(s) => <Figures {...p} units={unitsOf(s.units)} />}</Loaded>;
}

function Figures({ page, catalogue, check, units, ...p }: Props & { units: Units }) {
  const system = useSystem();
  const words = wordsOf(catalogue);
  // nothing puts it in gear: it is read at the quay
  const [draft, setDraft, forget] = useUnkept<Typed>(page.card.id, `${check.label}, figures`, {
    ...nothingTyped,
    outOfGear: !check.access,
  });
  const set = (d: Partial<Typed>) => setDraft((was) => ({ ...was, ...d }));
  const { places, round, health, operation, refused } = useRound(page, draft, units);
  const read = round?.readings.length ?? 0;
  const top = useRef<HTMLDivElement>(null);
  useEffect(() => void top.current?.scrollIntoView({ block: "start" }), []);
  const save = () => {
    if (!round) return;
    // read before it stood still it tells nothing: it is kept as a round, and the check is still to be made
    const warming = health !== undefined && health.unsettled.length > 0 && health.figures.length === 0;
    const entry: JobEntry = warming
      ? { kind: "round", round }
      : { kind: "check", check: check.id, outcome: "done", minutes: p.minutes, round };
    p.onKeep(entry, `${check.label}: ${read === 1 ? "a reading" : `${read} readings`}`);
    forget();
    if (warming) p.onLeave();
  };
  const ends = (
    <Box sx={p.dock ? foot : { display: "grid", gap: 0.75 }}>
      <Button variant="contained" disabled={read === 0} onClick={save} sx={{ minHeight: 56 }}>
        {read === 0 ? "Save what was read" : `Save ${read === 1 ? "this reading" : `these ${read} readings`}`}
      </Button>
      <Button onClick={p.onLeave} sx={{ minHeight: 48 }}>
        No instrument: by judgement
      </Button>
    </Box>
  );
  return (
    <Stack ref={top} sx={{ gap: 1.5, borderTop: 1, borderColor: "divider", pt: 1.5, scrollMarginTop: 8 }}>
      <RoundFigures
        {...{ page, draft, set, units, refused }}
        places={readAtCheck(places, check.reads)}
        taken={health?.rounds?.[0]}
      >
        {words.station}
      </RoundFigures>
      {read > 0 && health && (
        <HealthWords health={health} standard={page.standard} rpm={operation?.rpm} {...{ words, units, system }} />
      )}
      {p.took}
      {p.dock ? createPortal(ends, p.dock) : ends}
    </Stack>
  );
}

const foot = {
  bgcolor: "background.paper",
  borderTop: 3,
  borderColor: "text.primary",
  px: 1.5,
  py: 0.75,
  display: "grid",
  gap: 0.25,
} as const;
