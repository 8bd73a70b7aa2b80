import { Box, Button, Stack, Typography } from "@mui/material";
import { useNavigate } from "react-router";
import type { JobPage } from "../../api/client";
import { practice } from "../../api/practice";
import { useSave } from "../../api/writes";
import { useNotice } from "../notices";
import { useSystem } from "../unitSystem";
import { shown, type Units } from "../units";
import type { Words } from "../words";
import { useDo, usePracticeNow } from "./usePractice";

interface Props {
  page: JobPage;
  words: Words;
  units: Units;
}

/** What the instruments show in a practice: read once the engine is held at one speed, and noted as a round. */
export function RoundSeen(p: Props) {
  return practice ? <Seen {...p} /> : null; // a real engine is read by hand
}

function Seen({ page, words, units }: Props) {
  const now = usePracticeNow();
  const { busy, failed: refused, act } = useDo();
  const { noteInJob } = useSave();
  const { kept, failed } = useNotice();
  const go = useNavigate();
  const system = useSystem();
  const round = now?.round;
  const side = (s?: string) => (s === "raw" ? ", raw water" : s === "coolant" ? ", coolant" : "");
  return (
    <Box
      component="section"
      aria-label="What the instruments show"
      sx={{ border: 2, borderColor: "text.primary", borderRadius: 1, p: 1.5, mb: 2, bgcolor: "background.paper" }}
    >
      <Typography variant="h3" component="h2">
        What the instruments show
      </Typography>
      {round ? (
        <>
          <Typography>
            At {Math.round(round.operation.rpm)} rev/min
            {round.operation.out_of_gear ? ", out of gear: too hot to load" : ""}, the sea{" "}
            {shown(units, system, round.operation.sea_c, "degC")}:
          </Typography>
          <Box component="ul" sx={{ m: 0, pl: 2.5, columns: { sm: 2 } }}>
            {round.readings.map((r) => (
              <li key={`${r.station}.${r.side}`}>
                {r.station === "flow" ? "Raw water at the outlet" : `${words.station(r.station)}${side(r.side)}`}:{" "}
                <strong>{shown(units, system, r.value, r.station === "flow" ? "L/min" : "degC")}</strong>
              </li>
            ))}
          </Box>
        </>
      ) : (
        <Typography>
          Held at one speed until nothing moves, then place after place with a thermometer. 12 minutes.
        </Typography>
      )}
      {refused && <Typography role="alert">{refused}</Typography>}
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mt: 1 }}>
        {round && (
          <Button
            variant="contained"
            onClick={() =>
              void noteInJob(page.card.id, { kind: "round", round }, "Round saved").then(() => {
                kept("Round saved");
                void go(`/jobs/${page.card.id}`);
              }, failed)
            }
          >
            Note this round
          </Button>
        )}
        <Button
          variant={round ? "choice" : "contained"}
          disabled={busy || now?.over}
          onClick={() => void act({ do: "read" })}
        >
          {round ? "Read it once more, 12 min" : "Hold it and read, 12 min"}
        </Button>
      </Stack>
    </Box>
  );
}
