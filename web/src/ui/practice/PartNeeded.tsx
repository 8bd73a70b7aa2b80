import { Box, Button, Stack, Typography } from "@mui/material";
import type { Schemas, UnitSystem } from "../../api/client";
import { practice } from "../../api/practice";
import { useCalculators, usePracticeAt } from "../../api/queries";
import { useSystem } from "../unitSystem";
import { convert, unitsOf, type Units } from "../units";
import { useDo } from "./usePractice";
import { ChoiceButton } from "../ChoiceButton";

type Part = Schemas["PracticePart"];

/** In a practice, the part that a repair takes and that does not lie ready; none for a real engine. */
export function usePartNeeded(fault: string): Part | undefined {
  return usePracticeAt(practice).data?.parts.find((p) => p.faults.includes(fault) && !p.ready);
}

/** Before a repair in a practice: the old part is measured, and one is ordered by its sizes. */
export function PartNeeded({ part }: { part: Part }) {
  const { busy, failed, act } = useDo();
  const sheets = useCalculators().data;
  const units = sheets && unitsOf(sheets.units);
  const system = useSystem();
  const size = (list: Schemas["PracticeMeasure"][]) =>
    list.map((m) => `${m.label.toLowerCase()} ${read(m, units, system)}`).join(", ");
  return (
    <Box role="group" aria-label={`Order: ${part.label}`} sx={{ mt: 0.5 }}>
      <Typography sx={{ fontWeight: 650 }}>It takes a new part: {part.label.toLowerCase()}.</Typography>
      {part.wrong > 0 && (
        <Typography role="status">
          What came did not go on: it was tried and sent back, 20 minutes and a quarter of its price.
        </Typography>
      )}
      {part.measured.length > 0 ? (
        <Typography>The old one: {size(part.measured)}.</Typography>
      ) : (
        <Button
          variant="contained"
          disabled={busy}
          sx={{ my: 0.5 }}
          onClick={() => void act({ do: "measure", part: part.id })}
        >
          Measure the old one: 4 min
        </Button>
      )}
      <Stack sx={{ gap: 0.75, mt: 0.5, alignItems: "stretch" }}>
        {part.offers.map((o, i) => (
          <ChoiceButton
            key={i}
            disabled={busy}
            sx={{ justifyContent: "space-between", textAlign: "left", gap: 2 }}
            onClick={() => void act({ do: "order", part: part.id, offer: i })}
          >
            <span>Order {size(o.measures)}</span>
            <span>{o.price}</span>
          </ChoiceButton>
        ))}
      </Stack>
      {failed && <Typography role="alert">{failed}</Typography>}
    </Box>
  );
}

/** A size as a rule reads it: three figures. */
function read(m: Schemas["PracticeMeasure"], units: Units | undefined, system: UnitSystem): string {
  const from = units?.find(m.unit);
  const to = units?.shownAs(m.unit, system);
  return from && to ? `${Number(convert(m.value, from, to).toPrecision(3))}\u00a0${to.symbol}` : String(m.value);
}
