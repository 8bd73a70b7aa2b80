import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { Words } from "../words";
import type { Act, Teardown } from "./teardown";
import { ChoiceButton } from "../ChoiceButton";

export const sizes: [string, number][] = [
  ["crumb", 0.05],
  ["a quarter", 0.25],
  ["half", 0.5],
  ["three quarters", 0.75],
  ["a whole blade", 1],
];

/** The account of the rubber: what is missing, what was found where, and where the rest will have stopped. */
export function PieceLedger({ hands, words, onAct }: { hands: Teardown; words: Words; onAct: Act }) {
  const { ledger } = hands;
  const [why, setWhy] = useState("");
  const [at, setAt] = useState<string>();
  const [old, setOld] = useState(false);
  if (!hands.wheel) return null;
  const found = (station: string, share: number) => {
    onAct({ do: "piece", item: station, piece: { share, ...(old && { old }) } }, "Piece saved");
    setAt(undefined);
    setOld(false);
  };
  return (
    <Box component="section" aria-label="Pieces">
      <Typography variant="h2">Where is the rubber?</Typography>
      <Typography sx={{ fontWeight: 700, fontSize: "1.1rem", my: 0.5 }}>
        {ledger.say.charAt(0).toUpperCase() + ledger.say.slice(1)}.
      </Typography>
      {ledger.old > 0 && (
        <Typography>Beside it {ledger.old.toFixed(2)} of a blade from an earlier impeller.</Typography>
      )}
      {ledger.closed && <Typography>The hunt ended: {ledger.closed}</Typography>}
      {hands.hunt.length > 0 && (
        <Typography sx={{ color: "text.secondary", mb: 0.5 }}>
          The hose off the pump first, then in the order of the water; flush against the flow first.
        </Typography>
      )}
      {hands.hunt.map((h) => (
        <Box key={h.station} sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
          <Stack direction="row" sx={{ alignItems: "center", gap: 1 }}>
            <Box sx={{ mr: "auto" }}>
              <Typography sx={{ fontWeight: h.crumbs ? 450 : 700, lineHeight: 1.25 }}>
                {words.station(h.station)}
              </Typography>
              <Typography variant="body2" sx={{ color: "text.secondary" }}>
                {h.say}
                {h.crumbs && ". Only crumbs come so far"}
                {h.looked && ". Searched"}
              </Typography>
              <FoundHere pieces={ledger.pieces.filter((x) => x.station === h.station)} />
            </Box>
            <Button
              onClick={() => setAt(at === h.station ? undefined : h.station)}
              aria-expanded={at === h.station}
              aria-label={`Found a piece: ${words.station(h.station)}`}
              sx={{ flex: "none" }}
            >
              Found
            </Button>
            {!h.looked && (
              <Button
                onClick={() => onAct({ do: "looked", item: h.station }, `${words.station(h.station)}: searched`)}
                aria-label={`Searched, nothing: ${words.station(h.station)}`}
                sx={{ flex: "none" }}
              >
                Nothing
              </Button>
            )}
          </Stack>
          {at === h.station && (
            <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, mt: 0.5 }} role="group" aria-label="How large">
              {sizes.map(([label, share]) => (
                <ChoiceButton key={label} onClick={() => found(h.station, share)}>
                  {label}
                </ChoiceButton>
              ))}
              <ChoiceButton aria-pressed={old} onClick={() => setOld(!old)} data-on={old}>
                of an earlier impeller
              </ChoiceButton>
            </Stack>
          )}
        </Box>
      ))}
      {ledger.open && (
        <Stack direction="row" sx={{ gap: 1, mt: 1 }}>
          <TextField
            label="End the hunt, because"
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            sx={{ flex: 1, bgcolor: "background.paper" }}
          />
          <Button
            disabled={why.trim() === ""}
            onClick={() => onAct({ do: "pieces-closed", words: why.trim() }, "Hunt ended")}
          >
            End it
          </Button>
        </Stack>
      )}
    </Box>
  );
}

/** What turned up at a place, as it was put down. */
function FoundHere({ pieces }: { pieces: Schemas["PieceFound"][] }) {
  if (pieces.length === 0) return null;
  const size = (x: Schemas["PieceFound"]) => `${x.share.toFixed(2)}${x.old ? " of an earlier impeller" : ""}`;
  return (
    <Typography variant="body2" sx={{ fontWeight: 700 }}>
      Found here, in blades: {pieces.map(size).join(", ")}
    </Typography>
  );
}
