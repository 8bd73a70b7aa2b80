import { Box, Button, MenuItem, Stack, TextField } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useQuantity } from "../../ui/quantity";
import { useUnkept } from "../../ui/unkept";
import type { Act, TeardownItem } from "../../ui/job/teardown";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Facts = Schemas["Refit"];

/** What can be said of how a thing went back, by its kind; a raw-water pump has its plate and its ports. */
const asked: Record<Schemas["ItemKind"] | "pump", (keyof Facts)[]> = {
  part: ["other_make", "thread", "torque_nm", "places"],
  pump: ["plate", "other_make", "ports_turned", "rerouted"],
  seal: ["sealant", "other_make"],
  hose: ["rerouted", "other_make"],
  fasteners: ["thread", "torque_nm", "places", "other_make"],
};

const yesNo = { other_make: "Of another make", ports_turned: "Ports turned", rerouted: "Hose re-routed" } as const;

const words = {
  plate: ["Type on the new pump's plate", "The engine's facts follow it, and the parts that fit"],
  sealant: ["Sealant until the proper part", "Which, in words. It becomes a due item"],
  places: ["Which stud or long bolt stands where", "As: long stud lower inboard"],
} as const;

const threads = [
  ["", "not said"],
  ["paste", "paste"],
  ["lock", "thread lock"],
  ["none", "dry"],
] as const;

const isPump = (i: TeardownItem) => i.item.id === "pump" && i.task === "raw-pump-off";

interface Draft {
  facts: Facts;
  torque: string;
}

/** How a part went back, beside whether it is new: opened on wish, saved as one. */
export function Refit({ job, item: i, onAct }: { job: string; item: TeardownItem; onAct: Act }) {
  const [open, setOpen] = useState(false);
  const said = i.refit_says.length > 0;
  return (
    <>
      <Button
        onClick={() => setOpen(!open)}
        aria-expanded={open}
        aria-label={`${i.item.label}: ${said ? "change how" : "say how"}`}
      >
        {said ? "Change how" : "Say how"}
      </Button>
      {open && <RefitForm {...{ job, item: i, onAct }} onDone={() => setOpen(false)} />}
    </>
  );
}

export function RefitForm(p: { job: string; item: TeardownItem; onAct: Act; onDone: () => void }) {
  const { item: i } = p;
  const torque = useQuantity("N m");
  const [draft, setDraft, forget] = useUnkept<Draft>(p.job, `How it went back: ${i.item.label}`, {
    facts: i.refit,
    torque: torque.shown(i.refit.torque_nm),
  });
  const set = (change: Partial<Facts>) => setDraft({ ...draft, facts: { ...draft.facts, ...change } });
  const fields = asked[isPump(i) ? "pump" : i.item.kind];
  const bad = draft.torque.trim() !== "" && !((torque.read(draft.torque) ?? -1) >= 0);
  const save = () => {
    const said = { ...draft.facts };
    delete said.torque_nm;
    const torque_nm = torque.read(draft.torque) ?? 0;
    p.onAct(
      { do: "refit", item: i.key, refit: { ...trimmed(said), ...(torque_nm > 0 && { torque_nm }) } },
      `${i.item.label}: saved how it went back`,
    );
    forget();
    p.onDone();
  };
  return (
    <Box
      component="section"
      aria-label={`How it went back: ${i.item.label}`}
      sx={{ flexBasis: "100%", display: "grid", gap: 1, pt: 1.25, pb: 1 }}
    >
      {(["plate", "sealant", "places"] as const)
        .filter((f) => fields.includes(f))
        .map((f) => (
          <TextField
            key={f}
            label={words[f][0]}
            helperText={words[f][1]}
            value={draft.facts[f] ?? ""}
            onChange={(e) => set({ [f]: e.target.value })}
            sx={paper}
          />
        ))}
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
        {(Object.keys(yesNo) as (keyof typeof yesNo)[])
          .filter((f) => fields.includes(f))
          .map((f) => (
            <ChoiceButton
              key={f}
              aria-pressed={draft.facts[f] ?? false}
              data-on={draft.facts[f] ?? false}
              onClick={() => set({ [f]: !draft.facts[f] })}
            >
              {yesNo[f]}
            </ChoiceButton>
          ))}
      </Stack>
      {fields.includes("thread") && (
        <Stack direction="row" sx={{ gap: 1 }}>
          <TextField
            select
            label="On the threads"
            value={draft.facts.thread ?? ""}
            onChange={(e) => {
              const facts = { ...draft.facts };
              delete facts.thread;
              const to = e.target.value as Schemas["ThreadTreatment"] | "";
              setDraft({ ...draft, facts: to ? { ...facts, thread: to } : facts });
            }}
            sx={{ ...paper, flex: 1 }}
          >
            {threads.map(([id, label]) => (
              <MenuItem key={id} value={id}>
                {label}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            label={`Torque, ${torque.symbol}`}
            value={draft.torque}
            onChange={(e) => setDraft({ ...draft, torque: e.target.value })}
            error={bad}
            helperText={bad ? "A number, 0 or more" : undefined}
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
            sx={{ ...paper, flex: 1 }}
          />
        </Stack>
      )}
      <Button variant="contained" disabled={bad} onClick={save} sx={{ justifySelf: "start" }}>
        Save how
      </Button>
    </Box>
  );
}

const paper = { "& .MuiInputBase-root": { bgcolor: "background.paper" } };

/** What is empty or not so is left out. */
function trimmed(f: Facts): Facts {
  const said = Object.entries(f).map(([k, v]) => [k, typeof v === "string" ? v.trim() : v] as const);
  return Object.fromEntries(said.filter(([, v]) => v !== "" && v !== false)) as Facts;
}
