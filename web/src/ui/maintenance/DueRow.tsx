import { Box, Button, ButtonBase, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { useMay } from "../../api/queries";
import { useSave } from "../../api/writes";
import { useNotice } from "../notices";
import { day, lower } from "../words";
import { DueMark } from "./DueMark";
import { daysOn, stateWords, today, type DueItem, type OnUpkeep } from "./maintenance";
import { ChoiceButton } from "../ChoiceButton";

/** A maintenance item in a line: how pressing, when, why. It opens to what else there is to say; a touch begins it. */
export function DueRow(p: {
  engine: string;
  item: DueItem;
  beside: { label: string; items: string[] }[];
  onSay: OnUpkeep;
}) {
  const { item } = p;
  const [unfolded, setUnfolded] = useState(false);
  const [first] = item.reasons;
  const works = useMay("work");
  return (
    <Box
      component="article"
      aria-label={`${item.do}: ${stateWords[item.state].toLowerCase()}`}
      sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}
    >
      <Stack direction="row" sx={{ gap: 1.25, alignItems: "center" }}>
        <DueMark state={item.state} />
        <ButtonBase
          aria-expanded={unfolded}
          onClick={() => setUnfolded(!unfolded)}
          sx={{ flex: 1, minWidth: 0, minHeight: 48, justifyContent: "flex-start", textAlign: "left" }}
        >
          <span>
            <Typography component="span" sx={{ display: "block", fontWeight: 700, lineHeight: 1.25 }}>
              {item.do}
            </Typography>
            <Typography component="span" variant="body2" sx={{ display: "block", lineHeight: 1.3 }}>
              <strong>
                {stateWords[item.state]}
                {item.when && `, ${day(item.when)}`}
              </strong>
              {first && `: ${first.say}`}
            </Typography>
          </span>
        </ButtonBase>
        {works && <Begin engine={p.engine} item={item} />}
      </Stack>
      {item.put_off && (
        <Typography sx={{ pl: 5 }}>
          Postponed to {day(item.put_off.until)} by {item.put_off.by}: {item.put_off.why}
        </Typography>
      )}
      {unfolded && <Details {...p} />}
    </Box>
  );
}

type Props = Parameters<typeof DueRow>[0];

/** Why it is due and by what else, what lies beside it, and what can be said of it. */
function Details(p: Props) {
  const { item } = p;
  const [open, setOpen] = useState<"done" | "off">();
  const others = item.reasons.slice(1);
  const say = (upkeep: Schemas["MaintenanceAct"], label: string) => {
    p.onSay(p.engine, { upkeep }, `${label}: ${lower(item.label)}`);
    setOpen(undefined);
  };
  return (
    <Box sx={{ pl: 5, pb: 0.75 }}>
      {others.map((r) => (
        <Typography key={r.kind + r.say} variant="body2" sx={{ color: "text.secondary", lineHeight: 1.35 }}>
          Else {r.when && `${day(r.when)}, `}
          {r.say}
        </Typography>
      ))}
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        {item.why.charAt(0).toUpperCase() + item.why.slice(1)}.
      </Typography>
      {p.beside.map((g) => (
        <Typography key={g.label} variant="body2" sx={{ fontWeight: 650 }}>
          {g.label}: {g.items.map(lower).join(", ")}
        </Typography>
      ))}
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mt: 0.75 }}>
        {(["done", "off"] as const).map((what) => (
          <ChoiceButton key={what} data-on={open === what} onClick={() => setOpen(open === what ? undefined : what)}>
            {what === "done" ? "It was done" : "Postpone"}
          </ChoiceButton>
        ))}
      </Stack>
      {open === "done" && <WhenDone onSay={(on) => say({ do: "done", item: item.item, day: on }, "Done")} />}
      {open === "off" && (
        <PutOff onSay={(until, words) => say({ do: "put-off", item: item.item, until, words }, "Postpone")} />
      )}
    </Box>
  );
}

/** A job that carries the item's list. */
function Begin({ engine, item }: { engine: string; item: DueItem }) {
  const { startJob, noteInJob } = useSave();
  const { failed } = useNotice();
  const [busy, setBusy] = useState(false);
  const go = useNavigate();
  const begin = async () => {
    setBusy(true);
    try {
      const job = await startJob(engine, { words: `Due: ${lower(item.do)}`, job_kind: "service", plan: [item.item] });
      if (item.task) await noteInJob(job, { kind: "strip", strip: { do: "task", item: item.task } }, "List taken in");
      await go(`/jobs/${job}${item.task ? "/teardown" : "?pane=plan"}`);
    } catch (e) {
      failed(e);
      setBusy(false);
    }
  };
  return (
    <ChoiceButton disabled={busy} onClick={() => void begin()}>
      Start the job
    </ChoiceButton>
  );
}

const field = { bgcolor: "background.paper" };

function WhenDone({ onSay }: { onSay: (day: string) => void }) {
  const [on, setOn] = useState(today());
  return (
    <Stack direction="row" sx={{ gap: 1, mt: 1, flexWrap: "wrap" }}>
      <TextField
        type="date"
        label="On"
        value={on}
        onChange={(e) => setOn(e.target.value)}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { max: today() } }}
        sx={field}
      />
      <Button variant="contained" disabled={!on} onClick={() => onSay(on)}>
        Put it down
      </Button>
    </Stack>
  );
}

function PutOff({ onSay }: { onSay: (until: string, words: string) => void }) {
  const [until, setUntil] = useState(daysOn(60));
  const [words, setWords] = useState("");
  return (
    <Stack sx={{ gap: 1, mt: 1 }}>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
        <TextField
          type="date"
          label="To"
          value={until}
          onChange={(e) => setUntil(e.target.value)}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { min: daysOn(1) } }}
          sx={field}
        />
        <TextField
          label="Because"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          sx={{ ...field, flex: 1, minWidth: 180 }}
        />
        <Button variant="contained" disabled={!until || !words.trim()} onClick={() => onSay(until, words.trim())}>
          Put it off
        </Button>
      </Stack>
    </Stack>
  );
}
