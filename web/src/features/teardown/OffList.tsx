import { newID } from "../../api/ids";
import { Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Catalogue, JobPage, Schemas } from "../../api/client";
import { Cautions } from "../../ui/Cautions";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";
import { Stepper } from "../../ui/Stepper";
import { useUnkept } from "../../ui/unkept";
import { Camera } from "../../ui/Camera";
import { DrawnLines } from "./DrawnLines";
import { itemState, kindWords, type Act, type TeardownItem } from "../../ui/job/teardown";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Props {
  page: JobPage;
  catalogue: Catalogue;
  onAct: Act;
  onPhoto: (item: string, photo: Blob, words: string) => void;
}

/** What comes off: a task's list to tick in the order of the work, or anything else, counted by taps. */
export function OffList(p: Props) {
  const { hands } = p.page;
  const own = hands.items.filter((i) => i.task === "");
  return (
    <Stack sx={{ gap: 3 }}>
      {hands.begun.map((t) => (
        <TaskList key={t.id} {...p} task={t} items={hands.items.filter((i) => i.task === t.id)} />
      ))}
      {own.length > 0 && (
        <Box component="section" aria-label="Also off">
          <Typography variant="h2">Also off</Typography>
          {own.map((i) => (
            <ItemLine key={i.key} {...p} item={i} />
          ))}
        </Box>
      )}
      <BeginTask hands={hands} onAct={p.onAct} />
      <AddItem job={p.page.card.id} onAct={p.onAct} />
    </Stack>
  );
}

/** The tasks that fit the engine and are not begun yet. */
export function BeginTask({ hands, found = [], onAct }: { hands: JobPage["hands"]; found?: string[]; onAct: Act }) {
  const begun = hands.begun.map((t) => t.id);
  const fits = (t: Schemas["FittingTask"]) => t.stations.some((s) => found.includes(s));
  return (
    <Box component="section" aria-label="Begin a task">
      <Typography variant="h2" sx={{ mb: 0.75 }}>
        {begun.length > 0 ? "Another task" : "Which task?"}
      </Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
        {hands.tasks
          .filter((t) => !begun.includes(t.id))
          .sort((a, b) => Number(fits(b)) - Number(fits(a))) // where something was found comes first
          .map((t) => (
            <Button
              key={t.id}
              onClick={() => onAct({ do: "task", item: t.id }, t.label)}
              variant={fits(t) ? "contained" : "choice"}
            >
              {t.label}
            </Button>
          ))}
      </Stack>
    </Box>
  );
}

function TaskList(p: Props & { task: Schemas["Task"]; items: TeardownItem[] }) {
  const { task, catalogue, onAct } = p;
  const drawn = useDrawn(p.page.engine.circuit);
  const { heeded, schools } = p.page.hands;
  const acts = (task.cautions ?? []).filter((id) => catalogue.cautions.find((c) => c.id === id)?.act);
  // what is seen to stays where it stands until the list is opened again: nothing moves under the finger
  const [toHeed] = useState(() => acts.filter((id) => !heeded.includes(id)));
  const plain = (task.cautions ?? []).filter((id) => !toHeed.includes(id));
  const questions = catalogue.methods.filter((m) => task.methods?.includes(m.id));
  return (
    <Box component="section" aria-label={task.label}>
      <Typography variant="h2">{task.label}</Typography>
      <Stack sx={{ gap: 1, my: 1 }}>
        {toHeed.length > 0 && <Cautions ids={toHeed} />}
        <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
          {toHeed.map((id) => {
            const label = catalogue.cautions.find((c) => c.id === id)?.label ?? id;
            const seen = heeded.includes(id);
            return (
              <ChoiceButton
                key={id}
                disabled={seen}
                onClick={() => onAct({ do: "caution", item: id }, `${label}: seen to`)}
              >
                {label}: seen to{seen && " ✓"}
              </ChoiceButton>
            );
          })}
        </Stack>
      </Stack>
      <AllOff {...p} />
      {p.items.map((i) => (
        <ItemLine key={i.key} {...p} item={i} />
      ))}
      <DrawnLines title="How" lines={task.steps} drawn={(i) => drawn.step(task, i)} />
      <DrawnLines title="While you are there" lines={task.while_there} />
      {plain.length > 0 && <Seen ids={plain} catalogue={catalogue} />}
      {questions.map((m) => (
        <TextField
          key={m.id}
          select
          label={m.label}
          value={schools[m.id] ?? m.default}
          onChange={(e) => onAct({ do: "method", item: m.id, state: e.target.value }, m.label)}
          helperText={m.why}
          fullWidth
          sx={{ mt: 1.5, "& .MuiInputBase-root": { bgcolor: "background.paper" } }}
        >
          {m.schools.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.label}
              {s.id === m.default ? " (usual)" : ""}
            </MenuItem>
          ))}
        </TextField>
      ))}
    </Box>
  );
}

/** The usual case: the whole list came off, as many of each as it says; what differs is put right line by line. */
function AllOff({ items, onAct }: Props & { items: TeardownItem[] }) {
  const rest = items.filter((i) => i.off < i.item.count);
  const [shown] = useState(rest.length > 1); // it stays where it stands, so that nothing moves under the finger
  if (!shown) return null;
  return (
    <Button
      variant="contained"
      sx={{ mb: 1 }}
      disabled={rest.length === 0}
      onClick={() =>
        rest.forEach((i) => onAct({ do: "off", item: i.key, count: i.item.count - i.off }, `${i.item.label} off`))
      }
    >
      {rest.length === items.length ? "All of it is off, as listed" : "All the rest is off, as listed"}
    </Button>
  );
}

function Seen({ ids, catalogue }: { ids: string[]; catalogue: Catalogue }) {
  const labels = ids.map((id) => catalogue.cautions.find((c) => c.id === id)).filter((c) => c !== undefined);
  return (
    <Typography variant="body2" sx={{ color: "text.secondary", mt: 1 }}>
      {labels.map((c) => `${c.label}: ${c.text}`).join(" ")}
    </Typography>
  );
}

/** How an item stands, what to mind about it, how it sat. */
function aboutItem(i: TeardownItem, photos: number): string {
  const list = [
    itemState(i),
    i.item.disturbed && "only for access",
    i.item.left_hand && "left-hand thread",
    i.item.thread_lock && "thread lock",
    ...i.notes,
    photos === 1 && "a picture",
    photos > 1 && `${photos} pictures`,
  ];
  return list.filter(Boolean).join("; ");
}

/** One item: a tap takes the next off; how it sat, a picture and an excuse behind its name. */
export function ItemLine(p: Props & { item: TeardownItem }) {
  const { item: i, onAct } = p;
  const [open, setOpen] = useState(false);
  const left = Math.max(0, i.item.count - i.off);
  const whole = left > 1;
  const photos = p.page.photos.filter((x) => x.item === i.key);
  const drawn = useDrawn(p.page.engine.circuit);
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 0.75 }}>
        <Drawn of={drawn.item(i.task, i.item.id)} width={60} small />
        <Box sx={{ mr: "auto", minWidth: 0 }}>
          <Button
            onClick={() => setOpen(!open)}
            aria-expanded={open}
            sx={{ p: 0, minHeight: 36, color: "text.primary", textAlign: "left", justifyContent: "flex-start" }}
          >
            {i.item.label}
          </Button>
          <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.25 }}>
            {aboutItem(i, photos.length)}
          </Typography>
        </Box>
        {i.off > 0 && (
          <Button
            sx={step}
            aria-label={`${i.item.label}: one less off`}
            onClick={() => onAct({ do: "off", item: i.key, count: -1 }, `${i.item.label}: one less`)}
          >
            −
          </Button>
        )}
        <Button
          sx={step}
          disabled={left === 0}
          aria-label={`${i.item.label}: +1 off`}
          onClick={() => onAct({ do: "off", item: i.key, count: 1 }, `${i.item.label} off`)}
        >
          +1
        </Button>
        {(whole || (left === 1 && i.off === 0)) && (
          <Button
            variant="contained"
            sx={{ minWidth: 84 }}
            aria-label={`${i.item.label}: ${whole ? `${left} off` : "off"}`}
            onClick={() => onAct({ do: "off", item: i.key, count: left }, `${i.item.label} off`)}
          >
            {whole ? `${left} off` : "Off"}
          </Button>
        )}
      </Stack>
      {i.item.note && (
        <Typography variant="body2" sx={{ mt: 0.25 }}>
          {i.item.note.charAt(0).toUpperCase() + i.item.note.slice(1)}.
        </Typography>
      )}
      {open && <Details {...p} />}
    </Box>
  );
}

/** How many there really are, and how they stand: the pattern of tightening goes by that, never by how many are off. */
function Ring({ item: i, onAct }: { item: TeardownItem; onAct: Act }) {
  const set = (count: number, state?: Schemas["FastenerShape"]) =>
    onAct({ do: "ring", item: i.key, count, ...(state && { state }) }, `${i.item.label}: ${count} in all`);
  return (
    <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", alignItems: "center" }}>
      <Stepper label="There are" value={i.item.count} unit="in all" most={24} onChange={(n) => set(Math.max(1, n))} />
      {(["ring", "rectangle"] as const).map((s) => (
        <ChoiceButton
          key={s}
          aria-pressed={i.item.shape === s}
          data-on={i.item.shape === s}
          onClick={() => set(i.item.count, s)}
        >
          in a {s}
        </ChoiceButton>
      ))}
    </Stack>
  );
}

const step = { minWidth: 48, px: 0, border: 2, borderColor: "text.secondary", color: "text.primary", fontWeight: 750 };

function Details(p: Props & { item: TeardownItem }) {
  const { item: i } = p;
  const [{ words }, setDraft, forget] = useUnkept(p.page.card.id, `How it sat: ${i.item.label}`, { words: "" });
  const clear = () => {
    setDraft({ words: "" });
    forget();
  };
  const photos = p.page.photos.filter((x) => x.item === i.key);
  return (
    <Stack sx={{ gap: 1, mt: 1 }}>
      {i.item.kind === "fasteners" && <Ring item={i} onAct={p.onAct} />}
      <TextField
        label="How it sat"
        placeholder="Long stud lower inboard; cover mark at 8 o'clock"
        value={words}
        onChange={(e) => setDraft({ words: e.target.value })}
        sx={{ bgcolor: "background.paper" }}
      />
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
        <ChoiceButton
          disabled={words.trim() === ""}
          onClick={() => {
            p.onAct({ do: "how", item: i.key, words: words.trim() }, "Kept how it sat");
            clear();
          }}
        >
          Save that
        </ChoiceButton>
        <Camera label="Take a picture" onTaken={(photo) => p.onPhoto(i.key, photo, words.trim())} />
        {i.still_off > 0 && (
          <ChoiceButton
            disabled={words.trim() === ""}
            onClick={() => {
              p.onAct({ do: "excuse", item: i.key, words: words.trim() }, `${i.item.label} stays off`);
              clear();
            }}
          >
            Stays off, because of that
          </ChoiceButton>
        )}
      </Stack>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
        {photos.map((x) => (
          <Box
            key={x.id}
            component="img"
            src={`/api/v1/photos/${x.id}`}
            alt={x.words || `${i.item.label}, as it sat`}
            sx={{ width: 150, borderRadius: 1, border: 2, borderColor: "text.secondary" }}
          />
        ))}
      </Stack>
    </Stack>
  );
}

const nothingElse = { label: "", kind: "part" as Schemas["ItemKind"], disturbed: false };

function AddItem({ job, onAct }: { job: string; onAct: Act }) {
  const [draft, setDraft, forget] = useUnkept(job, "Something else came off", nothingElse);
  const { label, kind, disturbed } = draft;
  const add = () => {
    const id = newID();
    onAct(
      { do: "item", adds: { id, kind, label: label.trim(), count: 1, ...(disturbed && { disturbed }) } },
      label.trim(),
    );
    setDraft({ ...nothingElse, kind }); // "only for access" is of this one alone
    forget();
  };
  return (
    <Box component="section" aria-label="Something else">
      <Typography variant="h2" sx={{ mb: 0.75 }}>
        Something else came off
      </Typography>
      <TextField
        label="What, and from where"
        value={label}
        onChange={(e) => setDraft({ ...draft, label: e.target.value })}
        fullWidth
        sx={{ bgcolor: "background.paper" }}
      />
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, mt: 1 }}>
        {(Object.keys(kindWords) as Schemas["ItemKind"][]).map((k) => (
          <ChoiceButton
            key={k}
            aria-pressed={kind === k}
            onClick={() => setDraft({ ...draft, kind: k })}
            data-on={kind === k}
          >
            {kindWords[k]}
          </ChoiceButton>
        ))}
        <ChoiceButton
          aria-pressed={disturbed}
          onClick={() => setDraft({ ...draft, disturbed: !disturbed })}
          data-on={disturbed}
        >
          only for access
        </ChoiceButton>
        <Button variant="contained" disabled={label.trim() === ""} onClick={add}>
          Put it on the list
        </Button>
      </Stack>
    </Box>
  );
}
