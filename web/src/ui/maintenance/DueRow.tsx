import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useSave } from "../../api/writes";
import { useNotice } from "../notices";
import { day, lower } from "../words";
import { DueMark } from "./DueMark";
import { daysOn, stateWords, today, type DueItem, type OnUpkeep } from "./maintenance";

/** A maintenance item: how pressing, when, why; begun, put down as done, or put off with a reason. */
export function DueRow(p: {
  engine: string;
  item: DueItem;
  beside: { label: string; items: string[] }[];
  onSay: OnUpkeep;
}) {
  const { item } = p;
  const [open, setOpen] = useState<"done" | "off">();
  const [first, ...others] = item.reasons;
  return (
    <Box
      component="article"
      aria-label={`${item.do}: ${stateWords[item.state].toLowerCase()}`}
      sx={{ borderTop: 1, borderColor: "divider", py: 1.25 }}
    >
      <Stack direction="row" sx={{ gap: 1.5, alignItems: "flex-start" }}>
        <DueMark state={item.state} />
        <Box sx={{ minWidth: 0, flex: 1 }}>
          <Typography sx={{ fontWeight: 700, fontSize: "1.08rem", lineHeight: 1.25 }}>{item.do}</Typography>
          <Typography sx={{ lineHeight: 1.35 }}>
            <strong>
              {stateWords[item.state]}
              {item.when && `, ${day(item.when)}`}
            </strong>
            {first && `: ${first.say}`}
          </Typography>
          {item.put_off && (
            <Typography>
              Postponed to {day(item.put_off.until)} by {item.put_off.by}: {item.put_off.why}
            </Typography>
          )}
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
            <Begin engine={p.engine} item={item} />
            <Button
              variant="choice"
              data-on={open === "done"}
              onClick={() => setOpen(open === "done" ? undefined : "done")}
            >
              It was done
            </Button>
            <Button
              variant="choice"
              data-on={open === "off"}
              onClick={() => setOpen(open === "off" ? undefined : "off")}
            >
              Postpone
            </Button>
          </Stack>
          {open === "done" && (
            <WhenDone
              onSay={(on) => {
                p.onSay(p.engine, { upkeep: { do: "done", item: item.item, day: on } }, `Done: ${lower(item.label)}`);
                setOpen(undefined);
              }}
            />
          )}
          {open === "off" && (
            <PutOff
              onSay={(until, words) => {
                p.onSay(
                  p.engine,
                  { upkeep: { do: "put-off", item: item.item, until, words } },
                  `Postpone: ${lower(item.label)}`,
                );
                setOpen(undefined);
              }}
            />
          )}
        </Box>
      </Stack>
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
    <Button disabled={busy} onClick={() => void begin()} variant="choice">
      Start the job
    </Button>
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
