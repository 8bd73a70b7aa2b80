import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState } from "react";
import type { JobPage, Schemas } from "../../api/client";
import { Cautions } from "../Cautions";
import { when } from "../words";
import type { Act } from "./teardown";

type Condition = Schemas["Condition"];

/** All that must be so before the engine is started, each a touch from being settled, or passed over in writing. */
export function StartList({ page, onAct, onPane }: { page: JobPage; onAct: Act; onPane: (condition: string) => void }) {
  const { hands } = page;
  const open = hands.conditions.filter((c) => !c.ok && !c.overridden).length;
  const { water } = useTheme();
  const last = hands.starts[hands.starts.length - 1];
  return (
    <Stack component="section" aria-label="Before the start" sx={{ gap: 1.5 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 1.5 }}>
        <svg width="30" height="30" aria-hidden="true">
          {hands.ready ? (
            <circle cx="15" cy="15" r="13" fill={water.clear} />
          ) : (
            <path d="M 15 1 l 14 14 l -14 14 l -14 -14 z" fill={water.found} />
          )}
        </svg>
        <Typography role="status" sx={{ fontSize: "1.5rem", fontWeight: 750 }}>
          {hands.ready ? "Ready to start" : `Not ready: ${open} ${open === 1 ? "thing" : "things"} open`}
        </Typography>
      </Stack>
      {last && (
        <Typography sx={{ color: "text.secondary" }}>
          Last started {when(last.at)}, {last.by}. Each start is looked at afresh.
        </Typography>
      )}
      <Box>
        {hands.conditions.map((c) => (
          <Line key={c.id} condition={c} onAct={onAct} onPane={onPane} />
        ))}
      </Box>
      <Cautions ids={["dry-running", "turning-parts", "hot-exhaust"]} />
      <Button
        variant="contained"
        disabled={!hands.ready}
        onClick={() => onAct({ do: "start" }, "Started")}
        sx={{ minHeight: 64, fontSize: "1.15rem" }}
      >
        Engine started
      </Button>
    </Stack>
  );
}

/** Where there is more to a condition than one touch, the pane that settles it. */
const settledIn = new Set(["parts-back", "seals-matched", "hoses-clamped", "tightened", "pieces"]);

function Line({ condition: c, onAct, onPane }: { condition: Condition; onAct: Act; onPane: (c: string) => void }) {
  const [asking, setAsking] = useState(false);
  const [words, setWords] = useState("");
  const passed = c.ok || c.overridden !== "";
  const pass = () => {
    onAct({ do: "override", item: c.id, words: words.trim(), against: c.why }, `Passed over: ${c.label}`);
    setAsking(false);
  };
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 1.25 }}>
        <State condition={c} />
        {!passed && c.settle && (
          <Button
            variant="contained"
            onClick={() => onAct({ do: c.settle === "lift" ? "lift" : "tick", item: c.item }, c.label)}
            aria-label={`Confirm: ${c.label}`}
            sx={{ whiteSpace: "nowrap", flex: "none" }}
          >
            Confirm
          </Button>
        )}
        {!passed && settledIn.has(c.id) && (
          <Button
            onClick={() => onPane(c.id)}
            aria-label={`Go there: ${c.label}`}
            sx={{ whiteSpace: "nowrap", flex: "none" }}
          >
            Go there
          </Button>
        )}
        {!passed && (
          <Button
            onClick={() => setAsking(!asking)}
            aria-label={`Pass over: ${c.label}`}
            sx={{ minWidth: 48, px: 0.5 }}
          >
            …
          </Button>
        )}
      </Stack>
      {asking && (
        <Stack direction="row" sx={{ gap: 1, mt: 1 }}>
          <TextField
            label="Started all the same, because"
            value={words}
            onChange={(e) => setWords(e.target.value)}
            sx={{ flex: 1, bgcolor: "background.paper" }}
          />
          <Button disabled={words.trim() === ""} onClick={pass}>
            Pass over
          </Button>
        </Stack>
      )}
    </Box>
  );
}

/** A tick, an empty box, or a filled one where it was passed over; and what stands in the way. */
function State({ condition: c }: { condition: Condition }) {
  const { water, palette } = useTheme();
  return (
    <>
      <svg width="26" height="26" aria-hidden="true" style={{ flex: "none" }}>
        {c.ok ? (
          <path d="M 4 14 l 6 6 l 12 -14" fill="none" stroke={water.clear} strokeWidth="5" />
        ) : (
          <rect
            x="3"
            y="3"
            width="20"
            height="20"
            fill={c.overridden ? palette.text.secondary : "none"}
            stroke={palette.text.primary}
            strokeWidth="2.5"
          />
        )}
      </svg>
      <Box sx={{ mr: "auto", minWidth: 0 }}>
        <Typography sx={{ fontWeight: c.ok || c.overridden ? 500 : 700, lineHeight: 1.25 }}>{c.label}</Typography>
        {!c.ok && c.why !== "not looked at yet" && (
          <Typography variant="body2" sx={{ color: c.overridden ? "text.secondary" : "error.main", lineHeight: 1.3 }}>
            {c.why}
          </Typography>
        )}
        {c.overridden && <Typography variant="body2">Passed over: {c.overridden}</Typography>}
      </Box>
    </>
  );
}
