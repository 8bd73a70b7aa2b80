import { newID } from "../../api/ids";
import { Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import type { Catalogue, Schemas } from "../../api/client";
import { useCatalogue, useMay, useMethods } from "../../api/queries";
import { CrossedDialog } from "../../ui/Crossed";
import { kindWords } from "../../ui/job/teardown";
import { Loaded } from "../../ui/Loaded";
import { LogList } from "../../ui/LogList";
import { May } from "../../ui/May";
import { WhoDialog } from "../../ui/WhoDialog";
import { Stepper } from "../../ui/Stepper";
import { minutes, wordsOf } from "../../ui/words";
import { useTitle } from "../../ui/title";
import { useWrite } from "./useWrite";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Task = Schemas["Task"];
type Item = Schemas["TaskItem"];

/** What the yard goes by: its tasks as lists to tick, and the school that it follows where the trade disagrees. */
export function MethodsScreen() {
  useTitle("Tasks and methods");
  const catalogue = useCatalogue();
  const book = useMethods();
  return (
    <Box component="main" sx={{ maxWidth: 1180, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5, pb: 10 }}>
      <Button component={Link} to="/" sx={{ px: 0 }}>
        ← The yard
      </Button>
      <Typography variant="h1">Tasks and methods</Typography>
      <Button component={Link} to="/hindsight" sx={{ px: 0, mb: 2 }}>
        How good was the advice? The yard's own base rates and minutes
      </Button>
      <Loaded query={catalogue}>
        {(c) => (
          <Loaded query={book}>
            {(b) => (
              <May right="methods">
                <Book catalogue={c} book={b} />
              </May>
            )}
          </Loaded>
        )}
      </Loaded>
    </Box>
  );
}

function Book({ catalogue, book }: { catalogue: Catalogue; book: Schemas["YardMethods"] }) {
  const { write, takeBack, asking, setAsking, crossed, leave } = useWrite();
  const [editing, setEditing] = useState<Task>();
  const [seen, setSeen] = useState("");
  const may = useMay("methods");
  const edit = (t: Task) => {
    setEditing(t);
    setSeen(lastOf(book)); // others may change it while it is edited
  };
  const keep = (task: Task, than: string) => write({ kind: "task", task, seen: than }, `Kept: ${task.label}`);
  return (
    <Box sx={{ display: "grid", gap: 4, gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "3fr 2fr" } }}>
      <Stack sx={{ gap: 3, minWidth: 0 }}>
        {editing && (
          <Editor
            key={editing.id}
            task={editing}
            onLeave={() => setEditing(undefined)}
            onKeep={(task) => {
              keep(task, seen);
              setEditing(undefined);
            }}
          />
        )}
        <Box component="section" aria-label="Tasks">
          <Typography variant="h2" sx={{ mb: 0.5 }}>
            Tasks
          </Typography>
          {book.tasks.map((t) => (
            <Stack
              key={t.id}
              direction="row"
              sx={{ borderTop: 1, borderColor: "divider", py: 0.75, gap: 0.5, alignItems: "center", flexWrap: "wrap" }}
            >
              <Box sx={{ mr: "auto", flex: "1 1 180px" }}>
                <Typography sx={{ fontWeight: 600 }}>{t.label}</Typography>
                <Typography variant="body2" sx={{ color: "text.secondary" }}>
                  {minutes(t.minutes)}, {t.items.length} things to tick{book.own.includes(t.id) && ", the yard's own"}
                </Typography>
              </Box>
              <Button onClick={() => edit(t)} aria-label={`Change: ${t.label}`}>
                Change
              </Button>
              <Button
                onClick={() => edit({ ...t, id: newID(), label: `${t.label}, ours` })}
                aria-label={`Copy: ${t.label}`}
              >
                Copy
              </Button>
              {book.own.includes(t.id) && (
                <Button
                  onClick={() =>
                    write({ kind: "task", task: t, gone: true, seen: lastOf(book) }, `Given back: ${t.label}`)
                  }
                  aria-label={`Give back: ${t.label}`}
                >
                  Give back
                </Button>
              )}
            </Stack>
          ))}
        </Box>
      </Stack>
      <Stack sx={{ gap: 3, minWidth: 0 }}>
        <Box component="section" aria-label="How the yard does it">
          <Typography variant="h2" sx={{ mb: 1 }}>
            Where the trade disagrees
          </Typography>
          {catalogue.methods.map((m) => (
            <TextField
              key={m.id}
              select
              disabled={!may}
              fullWidth
              label={m.label}
              value={book.schools[m.id] ?? m.default}
              onChange={(e) =>
                write({ kind: "method", question: m.id, school: e.target.value, seen: lastOf(book) }, m.label)
              }
              helperText={`Usual: ${m.schools.find((s) => s.id === m.default)?.label ?? ""}; ${m.why}`}
              sx={{ mb: 1.5, "& .MuiInputBase-root": { bgcolor: "background.paper" } }}
            >
              {m.schools.map((s) => (
                <MenuItem key={s.id} value={s.id}>
                  {s.label}
                </MenuItem>
              ))}
            </TextField>
          ))}
        </Box>
        <LogList log={book.log} words={wordsOf(catalogue)} onUndo={takeBack} />
      </Stack>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
      {crossed && (
        <CrossedDialog
          say={crossed.say}
          facts={bothOf(
            book.tasks.find((t) => t.id === crossed.task.id),
            crossed.task,
          )}
          onMine={() => keep(crossed.task, lastOf(book))}
          onTheirs={leave}
        />
      )}
    </Box>
  );
}

/** The last entry of the yard's log. */
const lastOf = (book: Schemas["YardMethods"]) => book.log.at(-1)?.entry_id ?? "none";

const itemsOf = (t?: Task) => t?.items.map((i) => `${i.count ?? 1} × ${i.label}`).join("; ") ?? "";

/** A task as it stands on record, and as it was typed. */
const bothOf = (theirs: Task | undefined, mine: Task) => [
  { label: "Name", theirs: theirs?.label ?? "", mine: mine.label },
  { label: "Minutes", theirs: String(theirs?.minutes ?? ""), mine: String(mine.minutes) },
  { label: "To bring", theirs: theirs?.bring?.join("; ") ?? "", mine: mine.bring?.join("; ") ?? "" },
  { label: "To tick", theirs: itemsOf(theirs), mine: itemsOf(mine) },
];

const lines = [
  ["bring", "To bring, before anything is shut, a line each"],
  ["steps", "How, a line each"],
  ["after", "To look at afterwards, a line each"],
  ["while_there", "Worth doing while there, a line each"],
  ["parts", "Parts usually used, a line each"],
] as const;

function Editor({ task, onKeep, onLeave }: { task: Task; onKeep: (t: Task) => void; onLeave: () => void }) {
  const [t, setT] = useState(task);
  const [text, setText] = useState(() => Object.fromEntries(lines.map(([k]) => [k, (task[k] ?? []).join("\n")])));
  const set = (i: number, change: Partial<Item>) =>
    setT({ ...t, items: t.items.map((x, k) => (k === i ? { ...x, ...change } : x)) });
  const add = () => setT({ ...t, items: [...t.items, { id: newID(), kind: "part", label: "", count: 1 }] });
  const ready = t.label.trim() !== "" && t.items.length > 0 && t.items.every((i) => i.label.trim() !== "");
  const keep = () => {
    const split = (s = "") =>
      s
        .split("\n")
        .map((l) => l.trim())
        .filter(Boolean);
    onKeep({ ...t, label: t.label.trim(), ...Object.fromEntries(lines.map(([k]) => [k, split(text[k])])) });
  };
  return (
    <Box component="section" aria-label="Change a task" sx={{ bgcolor: "background.paper", borderRadius: 1, p: 2 }}>
      <TextField
        label="Task"
        fullWidth
        value={t.label}
        onChange={(e) => setT({ ...t, label: e.target.value })}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <Box sx={{ my: 1 }}>
        <Stepper label="Minutes" value={t.minutes} unit="min" step={5} onChange={(m) => setT({ ...t, minutes: m })} />
      </Box>
      {t.items.map((i, k) => (
        <Box key={i.id} sx={{ borderTop: 1, borderColor: "divider", py: 1 }} role="group" aria-label={`Item ${k + 1}`}>
          <Stack direction="row" sx={{ gap: 1 }}>
            <TextField
              label={`What comes off, ${k + 1}`}
              value={i.label}
              onChange={(e) => set(k, { label: e.target.value })}
              sx={{ flex: 1 }}
            />
            <Button
              aria-label={`Not on the list: ${i.label}`}
              onClick={() => setT({ ...t, items: t.items.filter((_, n) => n !== k) })}
              sx={{ minWidth: 48, px: 0 }}
            >
              ✕
            </Button>
          </Stack>
          <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap", mt: 0.75 }}>
            {(Object.keys(kindWords) as Item["kind"][]).map((kind) => (
              <ChoiceButton
                key={kind}
                aria-pressed={i.kind === kind}
                onClick={() => set(k, { kind })}
                data-on={i.kind === kind}
              >
                {kindWords[kind]}
              </ChoiceButton>
            ))}
            {i.kind === "fasteners" && (
              <ChoiceButton
                aria-pressed={i.shape === "rectangle"}
                onClick={() => set(k, { shape: i.shape === "rectangle" ? "ring" : "rectangle" })}
                data-on={i.shape === "rectangle"}
              >
                in a rectangle
              </ChoiceButton>
            )}
            {i.kind === "hose" && (
              <ChoiceButton
                aria-pressed={i.below === true}
                onClick={() => set(k, { below: !i.below })}
                data-on={i.below === true}
              >
                below the waterline
              </ChoiceButton>
            )}
          </Stack>
          <Stepper
            label="How many"
            value={i.count}
            unit=""
            most={200}
            onChange={(count) => set(k, { count: Math.max(1, count) })}
          />
        </Box>
      ))}
      <Button onClick={add} sx={{ px: 0 }}>
        Another item
      </Button>
      {lines.map(([k, label]) => (
        <TextField
          key={k}
          label={label}
          multiline
          fullWidth
          value={text[k] ?? ""}
          onChange={(e) => setText({ ...text, [k]: e.target.value })}
          sx={{ mt: 1.5 }}
        />
      ))}
      <Stack direction="row" sx={{ gap: 1, mt: 2 }}>
        <Button onClick={onLeave}>Cancel</Button>
        <Button variant="contained" disabled={!ready} onClick={keep}>
          Save the task
        </Button>
      </Stack>
    </Box>
  );
}
