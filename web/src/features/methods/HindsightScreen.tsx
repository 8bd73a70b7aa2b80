import { Box, Button, Stack, Typography } from "@mui/material";
import { Link } from "react-router";
import type { Catalogue, Schemas } from "../../api/client";
import { useCatalogue, useHindsight, useMay } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { ScreenHead } from "../../ui/ScreenHead";
import { useTitle } from "../../ui/title";
import { WhoDialog } from "../../ui/WhoDialog";
import { minutes, wordsOf } from "../../ui/words";
import { Comeback } from "./Comeback";
import { LookedBackOn } from "./LookedBackOn";
import { OwnMinutes, OwnRates } from "./OwnFigures";
import { useWrite } from "./useWrite";
import { WhereItStood } from "./WhereItStood";

type Hindsight = Schemas["Hindsight"];

/** How good the advice was: closed jobs looked back on, and what of it the yard wants to go by. */
export function HindsightScreen() {
  useTitle("How good was the advice?");
  const catalogue = useCatalogue();
  const hindsight = useHindsight();
  return (
    <Box component="main" sx={{ maxWidth: 1180, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5, pb: 10 }}>
      <Button component={Link} to="/methods" sx={{ px: 0 }}>
        ← Tasks and methods
      </Button>
      <ScreenHead title="How good was the advice?" drawing="hindsight">
        Your closed jobs, looked back on: where the cause stood among the suspects, what the looks took, and what both
        say of your own waters and hands.
      </ScreenHead>
      <Loaded query={catalogue}>
        {(c) => <Loaded query={hindsight}>{(h) => <Account catalogue={c} hindsight={h} />}</Loaded>}
      </Loaded>
    </Box>
  );
}

function Account({ catalogue, hindsight: h }: { catalogue: Catalogue; hindsight: Hindsight }) {
  const { write, asking, setAsking } = useWrite();
  // two may choose at once: the second is told
  const choose: typeof write = (entry, label) => write({ seen: h.figures.seen, ...entry }, label);
  const may = useMay("methods");
  const words = wordsOf(catalogue);
  return (
    <>
      {!may && (
        <Typography sx={{ fontWeight: 650, mb: 2 }}>
          A technician or the manager chooses what the yard goes by; you read along.
        </Typography>
      )}
      <Box sx={{ display: "grid", gap: 4, gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "1fr 1fr" } }}>
        <Stack sx={{ gap: 4, minWidth: 0 }}>
          <Box component="section" aria-label="Where the cause stood">
            <Typography variant="h2" sx={{ mb: 1 }}>
              Where the cause stood
            </Typography>
            {h.jobs === 0 ? <Typography>{nothingYet}</Typography> : <WhereItStood hindsight={h} />}
            {h.left > 0 && <Typography role="status">{`Looking back on ${h.left} jobs more …`}</Typography>}
            {h.unjudged > 0 && (
              <Typography>{`${h.unjudged} closed jobs could not be judged this time; they are left out.`}</Typography>
            )}
            {h.catalogues.length > 0 && (
              <Typography variant="body2" sx={{ color: "text.secondary", mt: 1 }}>
                {`Judged by the catalogue of ${h.catalogues.join(", of ")}, each job as it was when it was closed.`}
              </Typography>
            )}
          </Box>
          <Followed hindsight={h} />
          <Comeback figures={h.figures} may={may} onWrite={choose} />
        </Stack>
        <Stack sx={{ gap: 4, minWidth: 0 }}>
          <OwnRates hindsight={h} words={words} may={may} onWrite={choose} />
          <OwnMinutes hindsight={h} words={words} may={may} onWrite={choose} />
        </Stack>
      </Box>
      <LookedBackOn list={h.list} words={words} />
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </>
  );
}

const nothingYet =
  "No job with a cause is closed yet. Close jobs with the cause that was confirmed, and say what each look took: " +
  "from then on they stand here.";

/** Whether the looks that were made were those advised, and what they took against what was forecast. */
function Followed({ hindsight: h }: { hindsight: Hindsight }) {
  if (h.looks === 0) return null;
  return (
    <Box component="section" aria-label="The looks">
      <Typography variant="h2" sx={{ mb: 1 }}>
        The looks
      </Typography>
      <Typography>
        {`Of ${h.looks} looks ${h.followed} were the first that was offered, ${h.near} among the first three.`}
      </Typography>
      {h.timed > 0 && (
        <Typography>
          {`Of ${h.timed} it is known what they took: ${minutes(h.took_minutes)}, where `}
          {`${minutes(h.forecast_minutes)} were forecast. ${asLong(h)}`}
        </Typography>
      )}
    </Box>
  );
}

function asLong(h: Hindsight) {
  const times = h.took_minutes / h.forecast_minutes;
  if (times > 0.9 && times < 1.1) return "As forecast.";
  return times > 1 ? `${times.toFixed(1)} times as long.` : `${Math.round(times * 100)}\u00a0% of it.`;
}
