import { Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import type { JobPage } from "../../api/client";
import { itemState, passes, type Act, type TeardownItem } from "../../ui/job/teardown";
import { lower } from "../../ui/words";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";
import { Why } from "../../ui/Why";
import { DrawnLines } from "./DrawnLines";
import { Refit, RefitForm } from "./Refit";
import { Tighten } from "./Tighten";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** The same list backwards: what is still off, the last that came off first; then what is on, with its passes. */
export function OnList({ page, onAct, onDone }: { page: JobPage; onAct: Act; onDone?: () => void }) {
  const { hands } = page;
  const byKey = new Map(hands.items.map((i) => [i.key, i]));
  const rebuild = hands.rebuild
    .map((k) => byKey.get(k))
    .filter((i): i is TeardownItem => i !== undefined && i.still_off > 0);
  const back = hands.items.filter((i) => i.new + i.reused > 0 || (i.excused && i.off > 0));
  const turning = back.filter((i) => i.item.kind === "fasteners" && i.order && i.still_off === 0);
  return (
    <Stack sx={{ gap: 3 }}>
      <Box component="section" aria-label="Still off">
        <Typography variant="h2" sx={{ mb: 0.5 }}>
          Goes back now, in this order
        </Typography>
        {rebuild.length === 0 && (
          <Typography>{back.length > 0 ? "Everything is back." : "Nothing has come off yet."}</Typography>
        )}
        <AllBack list={rebuild} page={page} onAct={onAct} />
        {rebuild.map((i) => (
          <BackLine key={i.key} item={i} page={page} onAct={onAct} />
        ))}
      </Box>
      {turning.map((i) => (
        <Box key={i.key} component="section" aria-label={`Tighten: ${i.item.label}`}>
          <Typography variant="h2">Tighten: {i.item.label}</Typography>
          <Tighten
            item={i}
            onAct={(act, label) => {
              onAct(act, label);
              // the last pass of the last ring: what is left is the start
              const done = turning.every((t) => t === i || t.pass >= passes.length);
              if (done && rebuild.length === 0 && act.pass === passes.length) onDone?.();
            }}
          />
        </Box>
      ))}
      {rebuild.length === 0 && back.length > 0 && <After page={page} />}
      {back.length > 0 && (
        <Box component="section" aria-label="Back on">
          <Typography variant="h2" sx={{ mb: 0.5 }}>
            Back on
          </Typography>
          {back.map((i) => (
            <Stack
              key={i.key}
              direction="row"
              sx={{ borderTop: 1, borderColor: "divider", py: 0.75, alignItems: "center", flexWrap: "wrap" }}
            >
              <Box sx={{ mr: "auto", minWidth: 0, flex: "1 1 130px" }}>
                <Typography sx={{ fontWeight: 550 }}>{i.item.label}</Typography>
                <Typography variant="body2" sx={{ color: "text.secondary" }}>
                  {itemState(i)}
                  {i.new > 0 && `; ${i.new} new`}
                  {i.reused > 0 &&
                    i.item.kind === "seal" &&
                    `; ${i.reused} reused${i.why ? `: ${i.why}` : ", no reason given"}`}
                  {i.clamps > 0 && `; ${i.clamps} clamps`}
                  {i.refit_says.map((w) => `; ${w}`).join("")}
                </Typography>
              </Box>
              <Button
                onClick={() =>
                  onAct(
                    { do: "on", item: i.key, count: -1, state: i.new > 0 ? "new" : "reused" },
                    `${i.item.label}: one less on`,
                  )
                }
                aria-label={`${i.item.label}: one less on`}
              >
                One less
              </Button>
              <Refit job={page.card.id} item={i} onAct={onAct} />
              {i.item.kind === "hose" && i.clamps === 0 && i.new + i.reused > 0 && (
                <ClampsLater item={i} onAct={onAct} />
              )}
            </Stack>
          ))}
        </Box>
      )}
    </Stack>
  );
}

/** What to look at once it runs again, by the tasks that were begun. */
function After({ page }: { page: JobPage }) {
  const drawn = useDrawn(page.engine.circuit);
  return page.hands.begun.map((task) => (
    <DrawnLines
      key={task.id}
      title={`Afterwards: ${lower(task.label)}`}
      lines={task.after}
      drawn={(i) => drawn.after(task, i)}
    />
  ));
}

/** Goes back without a question: no hose, whose clamps are counted, and nothing that was condemned. */
const plain = (i: TeardownItem, page: JobPage) =>
  i.item.kind !== "hose" && !page.state.condemned.some((c) => c.part === i.item.id && !c.reason);

/** The usual case: seals and what the task renews are new, the rest as it was; what differs is said line by line. */
function AllBack({ list, page, onAct }: { list: TeardownItem[]; page: JobPage; onAct: Act }) {
  if (list.length < 2 || !list.every((i) => plain(i, page))) return null;
  const isNew = (i: TeardownItem) => i.item.kind === "seal" || usuallyRenewed(i, page);
  const fresh = list.filter(isNew).map((i, n) => (n ? lower(i.item.label) : i.item.label));
  return (
    <Button
      variant="contained"
      sx={{ mb: 1, lineHeight: 1.2 }}
      onClick={() =>
        list.forEach((i) =>
          onAct(
            { do: "on", item: i.key, count: i.still_off, state: isNew(i) ? "new" : "reused" },
            `${i.item.label} on`,
          ),
        )
      }
    >
      {fresh.length > 0 ? `All back: ${fresh.join(", ")} new, the rest as it was` : "All back, as it was"}
    </Button>
  );
}

function BackLine({ item: i, page, onAct }: { item: TeardownItem; page: JobPage; onAct: Act }) {
  const drawn = useDrawn(page.engine.circuit);
  const [reuse, setReuse] = useState(false);
  const [clamping, setClamping] = useState(uncounted);
  const seal = i.item.kind === "seal";
  const condemned = page.state.condemned.find((c) => c.part === i.item.id && !c.reason);
  const asks = seal || condemned !== undefined;
  const hose = i.item.kind === "hose";
  const on = (state: "new" | "reused", words?: string) =>
    onAct(
      {
        do: "on",
        item: i.key,
        count: i.still_off,
        state,
        ...(words && { words }),
        ...(hose && clamping),
      },
      `${i.item.label} on`,
    );
  const renewed = seal || usuallyRenewed(i, page);
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 0.75, flexWrap: "wrap" }}>
        <Stack direction="row" sx={{ alignItems: "center", gap: 1, flex: { xs: "1 1 100%", sm: "1 1 200px" } }}>
          <Drawn of={drawn.item(i.task, i.item.id)} width={seal ? 120 : 60} small={!seal} />
          <About item={i} />
        </Stack>
        <Way main={renewed} label={`${i.item.label}: new on`} onClick={() => on("new")}>
          New
        </Way>
        <Way
          main={!renewed}
          label={`${i.item.label}: ${seal ? "reuse" : "the old one back"}`}
          onClick={() => (asks ? setReuse(!reuse) : on("reused"))}
        >
          {seal ? "Reuse" : "The old one"}
        </Way>
        {seal && <Sealant job={page.card.id} item={i} onAct={onAct} />}
      </Stack>
      <Note item={i} />
      {hose && <Clamping below={i.item.below ?? false} {...clamping} onChange={setClamping} />}
      {condemned && (
        <Typography sx={{ fontWeight: 700, color: "error.main" }}>
          Condemned: {condemned.why}. Fit a new one.
        </Typography>
      )}
      {reuse && (
        <Why
          job={page.card.id}
          about={`Why the old one goes back: ${i.item.label}`}
          label={`Why the old ${seal ? "seal" : "one"} goes back`}
          touch="Reuse it"
          usual={seal && page.hands.schools.seals === "sound" ? "Sound, reused as the yard does" : ""}
          onSay={(why) => on("reused", why)}
        />
      )}
    </Box>
  );
}

/** Whether the task that a part came off in usually takes a new one. */
const usuallyRenewed = (i: TeardownItem, page: JobPage) =>
  (page.hands.begun.find((t) => t.id === i.task)?.parts ?? []).some((x) =>
    x.toLowerCase().includes(i.item.label.toLowerCase()),
  );

/** The clamps of a hose that is back and was not counted. */
function ClampsLater({ item: i, onAct }: { item: TeardownItem; onAct: Act }) {
  const [clamping, setClamping] = useState(uncounted);
  return (
    <Stack component="section" aria-label={`Clamps: ${i.item.label}`} sx={{ gap: 0.5, flexBasis: "100%", pb: 0.5 }}>
      <Clamping below={i.item.below ?? false} {...clamping} onChange={setClamping} />
      <Button
        variant="contained"
        disabled={clamping.clamps === 0}
        sx={{ alignSelf: "start" }}
        onClick={() =>
          onAct(
            { do: "on", item: i.key, count: 0, state: i.new > 0 ? "new" : "reused", ...clamping },
            `${i.item.label}: clamps`,
          )
        }
      >
        Save the clamps
      </Button>
    </Stack>
  );
}

/** What goes back, and what to mind about it. */
function About({ item: i }: { item: TeardownItem }) {
  return (
    <Box sx={{ mr: "auto", minWidth: 0, flex: "1 1 130px" }}>
      <Typography sx={{ fontWeight: 700, lineHeight: 1.25 }}>
        {i.still_off > 1 && `${i.still_off} × `}
        {i.item.label}
      </Typography>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        {[i.item.where, i.item.left_hand && "left-hand thread", i.item.thread_lock && "thread lock", ...i.notes]
          .filter(Boolean)
          .join("; ")}
      </Typography>
    </Box>
  );
}

const Note = ({ item: { item } }: { item: TeardownItem }) =>
  item.note ? <Typography variant="body2">{item.note.charAt(0).toUpperCase() + item.note.slice(1)}.</Typography> : null;

/** One of two ways to go on; the usual one stands out. */
function Way(p: { main: boolean; label: string; onClick: () => void; children: string }) {
  return (
    <Button onClick={p.onClick} aria-label={p.label} variant={p.main ? "contained" : "choice"} sx={{ flex: "none" }}>
      {p.children}
    </Button>
  );
}

/** Sealant in place of a seal that is not there yet. */
function Sealant(p: { job: string; item: TeardownItem; onAct: Act }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Way main={false} label={`${p.item.item.label}: sealant for now`} onClick={() => setOpen(!open)}>
        Sealant
      </Way>
      {open && <RefitForm {...p} onDone={() => setOpen(false)} />}
    </>
  );
}

interface Clamps {
  clamps: number;
  reach: boolean;
  chafe: boolean;
}

/** What nobody counted or looked at is not so. */
const uncounted: Clamps = { clamps: 0, reach: false, chafe: false };

function Clamping({ below, onChange, ...is }: Clamps & { below: boolean; onChange: (c: Clamps) => void }) {
  const toggle = (key: "reach" | "chafe", label: string) => (
    <ChoiceButton aria-pressed={is[key]} onClick={() => onChange({ ...is, [key]: !is[key] })} data-on={is[key]}>
      {label}
    </ChoiceButton>
  );
  return (
    <Stack direction="row" role="group" aria-label="Clamps" sx={{ gap: 0.75, flexWrap: "wrap", mt: 0.5 }}>
      {[1, 2].map((n) => (
        <ChoiceButton
          key={n}
          aria-pressed={is.clamps === n}
          onClick={() => onChange({ ...is, clamps: is.clamps === n ? 0 : n })}
          data-on={is.clamps === n}
        >
          {n === 1 ? "1 clamp" : "2 clamps"}
        </ChoiceButton>
      ))}
      {toggle("reach", "heads where a driver reaches")}
      {toggle("chafe", "chafe protected")}
      {below && (
        <Typography variant="body2" sx={{ color: "text.secondary", flexBasis: "100%" }}>
          Below the waterline: two, their heads where a driver reaches.
        </Typography>
      )}
    </Stack>
  );
}
