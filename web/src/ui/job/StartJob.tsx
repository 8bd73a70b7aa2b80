import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  TextField,
  Typography,
} from "@mui/material";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import type { Catalogue, Schemas } from "../../api/client";
import { useCatalogue, useServiceRecord } from "../../api/queries";
import { useSave } from "../../api/writes";
import { writer } from "../../api/writer";
import { Loaded } from "../Loaded";
import { useNotice } from "../notices";
import { useWriter } from "../Shell";
import { useQuantity } from "../quantity";
import { ChoiceButton } from "../ChoiceButton";

interface Props {
  engine: Schemas["Engine"];
  craft: string;
  onClose: () => void;
}

/** Starts a job: its kind, and the complaint as it was told; the taps come on the job's own screen. */
export function StartJob(p: Props) {
  const catalogue = useCatalogue();
  return (
    <Dialog open onClose={p.onClose} fullWidth maxWidth="sm" aria-labelledby="start-title">
      <DialogTitle id="start-title" component="h2">
        {p.craft}, {p.engine.name}
      </DialogTitle>
      <Loaded query={catalogue}>{(c) => <Form catalogue={c} {...p} />}</Loaded>
    </Dialog>
  );
}

/** The most water that a leak is taken for, litres a day. */
const mostLitres = 5000;

/** What the words are, by what the kind begins with. */
const wordsLabel = {
  complaint: "Owner's complaint",
  history: "What happened, or was done",
  plan: "What is to be done",
};

function Form({ catalogue, engine, onClose }: Props & { catalogue: Catalogue }) {
  const { startJob } = useSave();
  const { failed } = useNotice();
  const navigate = useNavigate();
  const known = useWriter();
  const [name, setName] = useState(known);
  const [kind, setKind] = useState(catalogue.job_kinds[0]);
  const [told, setTold] = useState("");
  const [leak, setLeak] = useState<LeakTyped>({ where: "", litres: "" });
  const [plan, setPlan] = useState<string[]>();
  const [busy, setBusy] = useState(false);
  const { wrong, given } = useLeak(leak);
  const leaks = kind?.ends === "dry";
  const planned = kind?.begins === "plan";
  const start = async () => {
    setBusy(true);
    writer.set(name);
    const about = { words: told.trim(), job_kind: kind?.id };
    try {
      const job = await startJob(engine.id, {
        ...about,
        ...(leaks && { leak: given }),
        ...(planned && plan && plan.length > 0 && { plan }),
      });
      await navigate(`/jobs/${job}${planned ? "?pane=plan" : ""}`);
    } catch (e) {
      failed(e);
      setBusy(false);
    }
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void start();
      }}
    >
      <DialogContent>
        <Stack sx={{ gap: 2, pt: 1 }}>
          {known === "" && (
            <TextField
              label="Your name"
              value={name}
              onChange={(e) => setName(e.target.value)}
              required
              helperText="Stands beside everything you note."
            />
          )}
          <OneOf label="Kind of job" list={catalogue.job_kinds} chosen={kind?.id} onPick={setKind} />
          {planned && <PlanFields engine={engine.id} plan={plan} onChange={setPlan} />}
          {leaks && <LeakFields {...{ catalogue, leak, wrong }} onChange={setLeak} />}
          <TextField
            label={wordsLabel[kind?.begins ?? "complaint"]}
            multiline
            minRows={2}
            value={told}
            onChange={(e) => setTold(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 4000 } }}
            helperText={
              planned
                ? "Or nothing: what is due is chosen next."
                : "In their own words, or nothing. What is seen is tapped next."
            }
          />
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" type="submit" disabled={busy || wrong || !name.trim()}>
          {busy ? "Starting, waiting for the link" : "Start the job"}
        </Button>
      </DialogActions>
    </form>
  );
}

/** What is due, of which the job is to do what is chosen: at first all that is overdue or soon. */
function PlanFields({ engine, plan, onChange }: { engine: string; plan?: string[]; onChange: (p: string[]) => void }) {
  const due = useServiceRecord(engine).data?.due ?? [];
  const pressing = due.filter((d) => d.state === "overdue" || d.state === "soon").map((d) => d.item);
  useEffect(() => {
    if (!plan && pressing.length > 0) onChange(pressing);
  });
  const chosen = plan ?? [];
  const turn = (id: string) => onChange(chosen.includes(id) ? chosen.filter((x) => x !== id) : [...chosen, id]);
  return (
    <Box role="group" aria-label="To be done">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        To be done
      </Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
        {due.map((d) => (
          <ChoiceButton
            key={d.item}
            aria-pressed={chosen.includes(d.item)}
            data-on={chosen.includes(d.item)}
            onClick={() => turn(d.item)}
          >
            {d.do}
          </ChoiceButton>
        ))}
      </Stack>
    </Box>
  );
}

interface LeakTyped {
  water?: string;
  where: string;
  litres: string;
}

/** What was typed of a leak, as it is sent; wrong where the litres are no number or too many. */
function useLeak({ water, where, litres }: LeakTyped) {
  const perDay = useQuantity("L").read(litres);
  const wrong = litres.trim() !== "" && !(perDay !== undefined && perDay >= 0 && perDay <= mostLitres);
  const given = {
    ...(water && { water }),
    ...(where.trim() && { where: where.trim() }),
    ...(perDay !== undefined && { litres_day: perDay }),
  };
  return { wrong, given };
}

interface OneOfProps<T> {
  label: string;
  list: T[];
  chosen?: string;
  onPick: (x: T) => void;
}

/** One of a few, each a touch. */
function OneOf<T extends { id: string; label: string }>({ label, list, chosen, onPick }: OneOfProps<T>) {
  return (
    <Stack direction="row" role="group" aria-label={label} sx={{ flexWrap: "wrap", gap: 0.75 }}>
      {list.map((x) => (
        <ChoiceButton key={x.id} aria-pressed={x.id === chosen} data-on={x.id === chosen} onClick={() => onPick(x)}>
          {x.label}
        </ChoiceButton>
      ))}
    </Stack>
  );
}

/** What leaks, where, and how much of it. */
function LeakFields(p: { catalogue: Catalogue; leak: LeakTyped; wrong: boolean; onChange: (l: LeakTyped) => void }) {
  const { leak } = p;
  const { symbol, shown } = useQuantity("L");
  const chosen = p.catalogue.waters.find((w) => w.id === leak.water);
  return (
    <Stack sx={{ gap: 1.5 }}>
      <OneOf
        label="Kind of water"
        list={p.catalogue.waters}
        chosen={leak.water}
        onPick={(w) => p.onChange({ ...leak, water: w.id === leak.water ? undefined : w.id })}
      />
      {chosen && <Typography variant="body2">{chosen.why}.</Typography>}
      <Stack direction="row" sx={{ gap: 1.5 }}>
        <TextField
          label={`How much a day, ${symbol}`}
          value={leak.litres}
          onChange={(e) => p.onChange({ ...leak, litres: e.target.value })}
          error={p.wrong}
          helperText={p.wrong ? `0 to ${shown(mostLitres)} ${symbol}` : "Empty: not measured."}
          sx={{ width: 190 }}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
        <TextField
          label="Where it shows"
          value={leak.where}
          onChange={(e) => p.onChange({ ...leak, where: e.target.value })}
          sx={{ flex: 1 }}
          slotProps={{ htmlInput: { maxLength: 400 } }}
        />
      </Stack>
    </Stack>
  );
}
