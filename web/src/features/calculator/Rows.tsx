import { Box, Button, InputBase, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { FileButton } from "../../ui/FileButton";
import type { CalculatorField } from "../../api/client";
import type { Entry, Group } from "./sheet";
import { Stopwatch } from "../../ui/Stopwatch";
import { FieldErrorText, TypeHere, UnitPick, useCalculator } from "./fieldParts";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Place {
  field: CalculatorField;
  entry: Entry | undefined;
  path: string;
  plain: string;
  onGive: (e: Entry | undefined) => void;
}

const asRows = (e: Entry | undefined): Group[] =>
  Array.isArray(e) ? (e.filter((x) => typeof x === "object") as Group[]) : [];

/** Rows typed one by one, or a table pasted or dropped as CSV. */
export function RowsField({ field, entry, path, plain, onGive }: Place) {
  const { wrong } = useCalculator();
  const [over, setOver] = useState(false);
  const rows = asRows(entry);
  const shownRows = rows.length > 0 ? rows : Array.from({ length: Math.min(field.min_rows ?? 1, 4) }, () => ({}));
  const table = typeof entry === "string";
  const set = (i: number, row: Group) => onGive(shownRows.map((r, k) => (k === i ? row : r)));
  const takeFile = (file: File | undefined) => void file?.text().then(onGive);
  return (
    <Box
      component="section"
      aria-label={field.label}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        takeFile(e.dataTransfer.files[0]);
      }}
      sx={{ py: 1.5, outline: over ? "3px dashed" : "none", outlineOffset: 4 }}
    >
      <Typography variant="h3" component="h2">
        {field.label}
      </Typography>
      {field.help && (
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {field.help}
        </Typography>
      )}
      <FieldErrorText error={wrong.get(path)} />
      {table ? (
        <PastedTable field={field} text={entry} path={path} onGive={onGive} />
      ) : (
        <>
          <Stack sx={{ gap: 1, mt: 1 }}>
            {shownRows.map((row, i) => (
              <Row
                key={i}
                {...{ field, row, plain }}
                name={`${field.label}, ${i + 1}`}
                path={`${path}[${i}]`}
                onGive={(r) => set(i, r)}
                onTable={onGive}
                onRemove={shownRows.length > 1 ? () => onGive(shownRows.filter((_, k) => k !== i)) : undefined}
              />
            ))}
          </Stack>
          <Stack direction="row" sx={{ gap: 1, mt: 1, flexWrap: "wrap", "@media print": { display: "none" } }}>
            <Button variant="outlined" onClick={() => onGive([...shownRows, {}])} sx={plainButton}>
              Another row
            </Button>
            <Button onClick={() => onGive(`${(field.fields ?? []).map((f) => f.name).join(",")}\n`)} sx={plainButton}>
              Paste a table
            </Button>
            <FileButton
              name={`${field.label}: open a CSV file`}
              accept=".csv,.txt,text/csv"
              onFile={takeFile}
              sx={plainButton}
            >
              Open a CSV file
            </FileButton>
          </Stack>
        </>
      )}
    </Box>
  );
}

const plainButton = { borderColor: "text.primary", color: "text.primary" };

function PastedTable({
  field,
  text,
  path,
  onGive,
}: {
  field: CalculatorField;
  text: string;
  path: string;
  onGive: (e: Entry | undefined) => void;
}) {
  const { wrong } = useCalculator();
  const lines = text.split(/\r?\n/).filter((l) => l.trim() !== "").length;
  const inside = [...wrong.entries()].filter(([k]) => k.startsWith(`${path}[`)).slice(0, 5);
  return (
    <Box sx={{ mt: 1 }}>
      <InputBase
        multiline
        minRows={4}
        maxRows={10}
        value={text}
        onChange={(e) => onGive(e.target.value)}
        inputProps={{ "aria-label": `${field.label} as a table`, spellCheck: false, style: { fontFamily: "inherit" } }}
        sx={{ width: "100%", p: 1, bgcolor: (t) => t.water.sunk, borderBottom: 3, borderColor: "text.primary" }}
      />
      <Stack direction="row" sx={{ alignItems: "center", gap: 1, mt: 0.5 }}>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {lines} {lines === 1 ? "line" : "lines"}; the first names the columns, in any order, units in brackets
        </Typography>
        <Button onClick={() => onGive(undefined)} sx={{ ml: "auto" }}>
          Type rows instead
        </Button>
      </Stack>
      {inside.map(([k, e]) => (
        <FieldErrorText key={k} error={e} />
      ))}
    </Box>
  );
}

function Row(p: {
  field: CalculatorField;
  row: Group;
  name: string;
  path: string;
  plain: string;
  onGive: (r: Group) => void;
  onTable: (text: string) => void;
  onRemove?: () => void;
}) {
  const { wrong } = useCalculator();
  const paste = (e: React.ClipboardEvent) => {
    const text = e.clipboardData.getData("text");
    if (!/\n\s*\S/.test(text)) return;
    e.preventDefault();
    p.onTable(text);
  };
  const slips = [...wrong.entries()].filter(([k]) => k === p.path || k.startsWith(`${p.path}.`));
  return (
    <Box role="group" aria-label={p.name} sx={{ bgcolor: (t) => t.water.sunk, px: 1, py: 0.5, borderRadius: 1 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 1.5, rowGap: 0.5, alignItems: "flex-end" }}>
        {(p.field.fields ?? []).map((f) => (
          <Cell
            key={f.name}
            field={f}
            entry={p.row[f.name]}
            plain={`${p.plain}.${f.name}`}
            wrong={wrong.has(`${p.path}.${f.name}`)}
            onPaste={paste}
            onGive={(e) => p.onGive({ ...p.row, [f.name]: e })}
          />
        ))}
        {p.onRemove && (
          <Button
            onClick={p.onRemove}
            aria-label={`${p.name}: take this row out`}
            sx={{ minWidth: 48, px: 0, ml: "auto", "@media print": { display: "none" } }}
          >
            ✕
          </Button>
        )}
      </Box>
      {slips.map(([k, e]) => (
        <FieldErrorText key={k} error={e} />
      ))}
    </Box>
  );
}

function Cell(p: {
  field: CalculatorField;
  entry: Entry | undefined;
  plain: string;
  wrong: boolean;
  onPaste: (e: React.ClipboardEvent) => void;
  onGive: (e: Entry | undefined) => void;
}) {
  const f = p.field;
  if (f.kind === "choice" || f.kind === "yes-no") return <SmallChoice {...p} />;
  const text = typeof p.entry === "string" ? p.entry : "";
  const fallback = typeof f.default === "number" ? String(f.default) : "";
  return (
    <Box>
      <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.2 }}>
        {f.label}
      </Typography>
      <Stack direction="row" sx={{ alignItems: "center", gap: 0.5 }}>
        <TypeHere
          text={text}
          small
          label={f.label}
          numeric={f.kind !== "text"}
          wide={f.kind === "text"}
          placeholder={fallback}
          wrong={p.wrong}
          onPaste={p.onPaste}
          onGive={p.onGive}
        />
        {f.unit !== "1" && f.unit !== "money" && <UnitPick field={f} plain={p.plain} width="auto" />}
      </Stack>
    </Box>
  );
}

function SmallChoice({
  field,
  entry,
  onGive,
}: {
  field: CalculatorField;
  entry: Entry | undefined;
  onGive: (e: Entry | undefined) => void;
}) {
  const options =
    field.kind === "yes-no"
      ? [
          { id: true as const, label: "yes" },
          { id: false as const, label: "no" },
        ]
      : (field.choices ?? []);
  return (
    <Box role="group" aria-label={field.label}>
      <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.2 }}>
        {field.label}
      </Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.5 }}>
        {options.map((o) => (
          <ChoiceButton
            key={String(o.id)}
            aria-pressed={entry === o.id}
            onClick={() => onGive(entry === o.id ? undefined : o.id)}
            data-on={entry === o.id}
            sx={{ px: 1, minWidth: 48 }}
          >
            {o.label}
          </ChoiceButton>
        ))}
      </Stack>
    </Box>
  );
}

/** A few numbers of one kind; times can be taken with the stopwatch. */
export function NumbersField({ field, entry, path, plain, onGive }: Place) {
  const { wrong } = useCalculator();
  const given = Array.isArray(entry) ? entry.map((e) => (typeof e === "string" ? e : "")) : [];
  const cells = given.length > 0 ? given : ["", "", ""];
  const set = (i: number, text: string) => onGive(cells.map((c, k) => (k === i ? text : c)));
  const add = (text: string) => {
    const free = cells.findIndex((c) => c === "");
    onGive(free < 0 ? [...cells, text] : cells.map((c, k) => (k === free ? text : c)));
  };
  const slips = [...wrong.entries()].filter(([k]) => k.startsWith(path));
  return (
    <Box component="section" aria-label={field.label} sx={{ py: 1, borderBottom: 1, borderColor: "divider" }}>
      <Stack direction="row" sx={{ alignItems: "center" }}>
        <Box sx={{ flex: 1 }}>
          <Typography sx={{ fontWeight: 550 }}>{field.label}</Typography>
          <Typography variant="body2" sx={{ color: "text.secondary" }}>
            {field.help}
          </Typography>
        </Box>
        <UnitPick field={field} plain={plain} />
      </Stack>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 1, mt: 0.75, alignItems: "center" }}>
        {cells.map((c, i) => (
          <TypeHere
            key={i}
            text={c}
            numeric
            label={`${field.label}, ${i + 1}`}
            wrong={wrong.has(`${path}[${i}]`)}
            onGive={(t) => set(i, t ?? "")}
          />
        ))}
        <Button onClick={() => onGive([...cells, ""])} sx={{ "@media print": { display: "none" } }}>
          Another
        </Button>
      </Stack>
      {field.unit === "s" && <Stopwatch onTime={(s) => add(s.toFixed(1))} />}
      {slips.map(([k, e]) => (
        <FieldErrorText key={k} error={e} />
      ))}
    </Box>
  );
}
