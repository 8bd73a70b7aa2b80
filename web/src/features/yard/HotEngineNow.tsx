import { Box, Button, Stack, Typography } from "@mui/material";
import { useTheme, type Theme } from "@mui/material/styles";
import { useState } from "react";
import { useNavigate } from "react-router";
import { newID } from "../../api/ids";
import type { Catalogue, Schemas } from "../../api/client";
import { useTypes } from "../../api/queries";
import { useSave } from "../../api/writes";
import { notNamed } from "../../ui/job/unnamed";
import { footHeight } from "../../ui/Shell";
import { useNotice } from "../../ui/notices";

/** A hot engine that nobody knows yet: its kind, its trouble, go. Name and facts are asked for later. */
export function HotEngineNow({ catalogue }: { catalogue: Catalogue }) {
  const types = useTypes().data?.types ?? [];
  const { water } = useTheme();
  const [type, setType] = useState<Schemas["PlantType"]>();
  const [trouble, setTrouble] = useState<Schemas["Trouble"]>();
  const { go, busy } = useGo();
  return (
    <Box
      component="section"
      aria-label="Hot engine now"
      sx={{ bgcolor: water.next, color: water.nextInk, px: { xs: 1.5, md: 2.5 }, py: 1.5, mb: 2.5, borderRadius: 1 }}
    >
      <Typography variant="h2" sx={{ fontSize: "1.4rem" }}>
        Hot engine now
      </Typography>
      <Typography sx={{ mb: 1 }}>
        {type ? "What does it show?" : "Which kind of engine is it? Name and facts can wait."}
      </Typography>
      {!type && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          Closed-cooled: it has coolant, with a pressure cap. Raw-water-cooled: the water outside runs through the
          block.
        </Typography>
      )}
      <Choices
        label="Kind of engine"
        list={type ? [type] : types}
        chosen={type?.id}
        onPick={(t) => {
          setType(type ? undefined : t);
          setTrouble(undefined);
        }}
      />
      {type && <Choices label="Kind of trouble" list={catalogue.troubles} chosen={trouble?.id} onPick={setTrouble} />}
      {type && trouble && (
        <Button
          disabled={busy}
          onClick={() => void go(type, trouble)}
          sx={{
            ...button,
            mt: 1.5,
            minHeight: 60,
            width: "100%",
            bgcolor: water.nextInk,
            color: water.next,
            position: "sticky",
            bottom: { xs: footHeight + 8, md: 8 },
            "&:hover": { bgcolor: water.nextInk },
          }}
        >
          {busy ? "Starting, waiting for the link" : `Go: ${trouble.label.toLowerCase()}`}
        </Button>
      )}
    </Box>
  );
}

/** Puts a craft and an engine of the kind on record under a name to be changed, and starts the job. */
function useGo() {
  const { saveCraft, saveEngine, startJob } = useSave();
  const { failed } = useNotice();
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const go = async (type: Schemas["PlantType"], trouble: Schemas["Trouble"]) => {
    setBusy(true);
    const [craft, engine] = [newID(), newID()];
    try {
      // all three are on the device at once and are sent in this order: a lost link or a reload leaves none behind
      const [, , job] = await Promise.all([
        saveCraft(craft, { name: notNamed(new Date()) }),
        saveEngine(engine, { ...ofKind(type), craft_id: craft, name: type.label.split(",")[0] ?? "Engine" }),
        startJob(engine, { words: "", job_kind: trouble.kind, seen: trouble.findings ?? [] }),
      ]);
      await navigate(`/jobs/${job}?pane=next`);
    } catch (e) {
      failed(e);
      setBusy(false);
    }
  };
  return { go, busy };
}

const ofKind = (t: Schemas["PlantType"]) => ({
  family: t.family,
  fuel: t.fuel,
  rated_kw: t.rated_kw,
  rated_rpm: t.rated_rpm,
  thermostat_c: t.thermostat_c,
  circuit: t.circuit,
  cooling: { aspiration: t.aspiration },
});

const button = { justifyContent: "flex-start", textAlign: "left", lineHeight: 1.2, fontSize: "1.02rem" } as const;

function Choices<T extends { id: string; label: string }>(p: {
  label: string;
  list: T[];
  chosen?: string;
  onPick: (x: T) => void;
}) {
  const { water } = useTheme();
  return (
    <Stack role="group" aria-label={p.label} sx={grid}>
      {p.list.map((x) => (
        <Button
          key={x.id}
          aria-pressed={p.chosen === x.id}
          onClick={() => p.onPick(x)}
          sx={{
            ...button,
            color: "inherit",
            border: 2,
            borderColor: "currentcolor",
            px: 1.5,
            minHeight: 52,
            ...(p.chosen === x.id && chosen(water)),
          }}
        >
          {x.label}
          {p.list.length === 1 && ": another?"}
        </Button>
      ))}
    </Stack>
  );
}

const chosen = ({ next, nextInk }: Theme["water"]) => ({
  fontWeight: 800,
  bgcolor: nextInk,
  color: next,
  borderColor: nextInk,
  "&:hover": { bgcolor: nextInk },
});

const grid = {
  display: "grid",
  gridTemplateColumns: { xs: "1fr 1fr", md: "repeat(3, 1fr)" },
  gap: 0.75,
  mt: 0.75,
} as const;
