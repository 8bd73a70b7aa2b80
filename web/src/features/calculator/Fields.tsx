import { Box, Button, Stack, Typography } from "@mui/material";
import { useId, useState } from "react";
import type { CalculatorField } from "../../api/client";
import { matters, unitFor, type Entry, type Group } from "./sheet";
import { FieldErrorText, TypeHere, UnitPick, useCalculator } from "./fieldParts";
import { NumbersField, RowsField } from "./Rows";
import { convert, convertError, digits, shown, type Units } from "../../ui/units";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Place {
  field: CalculatorField;
  entry: Entry | undefined;
  path: string; // with row numbers, as the program tells slips
  plain: string; // without, as units are chosen
  onGive: (e: Entry | undefined) => void;
}

/** The fields of a calculator or of a group; those seldom touched wait behind a button. */
export function Fields(p: {
  fields: CalculatorField[];
  given: Group;
  path: string;
  plain: string;
  onGive: (field: string, e: Entry | undefined) => void;
}) {
  const { wrong } = useCalculator();
  const [open, setOpen] = useState(false);
  const here = p.fields.filter((f) => matters(f, p.fields, p.given));
  const more = here.filter((f) => f.more);
  const needed = more.some(
    (f) => p.given[f.name] !== undefined || [...wrong.keys()].some((k) => k.startsWith(p.path + f.name)),
  );
  const show = (f: CalculatorField) => (
    <OneField
      key={f.name}
      field={f}
      entry={p.given[f.name]}
      path={p.path + f.name}
      plain={p.plain + f.name}
      onGive={(e) => p.onGive(f.name, e)}
    />
  );
  return (
    <>
      {here.filter((f) => !f.more).map(show)}
      {more.length > 0 && !needed && (
        <Button
          onClick={() => setOpen(!open)}
          aria-expanded={open}
          sx={{ justifyContent: "flex-start", textAlign: "left", px: 0, "@media print": { display: "none" } }}
        >
          {open ? "Hide" : "Also"}: {more.map((f) => f.label.toLowerCase()).join(", ")}
        </Button>
      )}
      {(open || needed) && more.map(show)}
    </>
  );
}

function OneField(p: Place) {
  if (p.field.kind === "group") return <GroupField {...p} />;
  if (p.field.kind === "rows") return <RowsField {...p} />;
  if (p.field.kind === "numbers") return <NumbersField {...p} />;
  if (p.field.kind === "choice" || p.field.kind === "yes-no") return <ChoiceField {...p} />;
  return <TypedField {...p} />;
}

/** The side of an exchanger carries the colour of its water, as on the engine's own circuit. */
const edges: Record<string, "coolant" | "raw"> = { hot: "coolant", cold: "raw" };

function GroupField({ field, entry, path, plain, onGive }: Place) {
  const given = typeof entry === "object" && !Array.isArray(entry) ? entry : {};
  const edge = edges[field.name];
  return (
    <Box
      component="fieldset"
      sx={{
        border: 0,
        m: 0,
        p: 0,
        pl: edge ? 1.5 : 0,
        my: edge ? 1.5 : 0,
        minWidth: 0,
        boxShadow: (t) => (edge ? `inset 6px 0 ${t.water[edge]}` : "none"),
      }}
    >
      <Typography
        component="legend"
        variant="h3"
        sx={{ p: 0, pt: edge ? 0 : 1.5, display: edge || field.help ? "block" : "contents" }}
      >
        {edge || field.help ? field.label : ""}
      </Typography>
      {field.help && (
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {field.help}
        </Typography>
      )}
      <Fields
        fields={field.fields ?? []}
        given={given}
        path={`${path}.`}
        plain={`${plain}.`}
        onGive={(f, e) => onGive({ ...given, [f]: e })}
      />
    </Box>
  );
}

export function ChoiceField({ field, entry, path, onGive }: Place) {
  const { wrong } = useCalculator();
  const id = useId();
  const options =
    field.kind === "yes-no"
      ? [
          { id: true as const, label: "yes" },
          { id: false as const, label: "no" },
        ]
      : (field.choices ?? []);
  const chosen = entry ?? (field.default as string | undefined);
  return (
    <Box sx={{ py: 1, borderBottom: 1, borderColor: "divider" }} role="group" aria-labelledby={id}>
      <Typography id={id} sx={{ fontWeight: 550 }}>
        {field.label}
      </Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, mt: 0.5 }}>
        {options.map((o) => (
          <ChoiceButton
            key={String(o.id)}
            aria-pressed={chosen === o.id}
            onClick={() => onGive(entry === o.id && field.optional ? undefined : o.id)}
            data-on={chosen === o.id}
          >
            {o.label}
          </ChoiceButton>
        ))}
      </Stack>
      <FieldErrorText error={wrong.get(path)} />
    </Box>
  );
}

/** A number or words: the label, what is typed, its unit; below, how it was read. */
function TypedField({ field, entry, path, plain, onGive }: Place) {
  const { sheet, units, system, wrong } = useCalculator();
  const id = useId();
  const text = typeof entry === "string" ? entry : "";
  const error = wrong.get(path);
  const unit = unitFor(field, plain, sheet, units, system);
  const numeric = field.kind === "number" || field.kind === "integer";
  return (
    <Box sx={{ borderBottom: 1, borderColor: error ? "error.main" : "divider", py: 0.5 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 1, minHeight: 52 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Typography component="label" htmlFor={id} sx={{ display: "block", fontWeight: 550, lineHeight: 1.25 }}>
            {field.label}
          </Typography>
          {field.help && (
            <Typography id={`${id}-help`} variant="body2" sx={{ color: "text.secondary", lineHeight: 1.25 }}>
              {field.help}
            </Typography>
          )}
        </Box>
        <TypeHere
          id={id}
          text={text}
          numeric={numeric}
          wide={!numeric}
          placeholder={placeholder(field, unit?.id, units)}
          wrong={error !== undefined}
          describedBy={error ? `${id}-slip` : field.help ? `${id}-help` : undefined}
          onGive={onGive}
        />
        <UnitPick field={field} plain={plain} />
      </Stack>
      <Suggestions field={field} plain={plain} onGive={onGive} />
      <ReadAs field={field} path={path} text={text} />
      <FieldErrorText id={`${id}-slip`} error={error} />
    </Box>
  );
}

function placeholder(field: CalculatorField, unit: string | undefined, units: Units): string {
  const from = units.find(field.unit ?? "");
  const to = units.find(unit ?? "");
  if (typeof field.default === "number" && from && to) return digits(convert(field.default, from, to), to);
  return field.optional ? "not known" : "";
}

function Suggestions({ field, plain, onGive }: { field: CalculatorField; plain: string; onGive: (e: Entry) => void }) {
  const { sheet, units, system } = useCalculator();
  if (!field.suggest) return null;
  const from = units.find(field.unit ?? "");
  const to = unitFor(field, plain, sheet, units, system);
  return (
    <Stack direction="row" sx={{ flexWrap: "wrap", columnGap: 1, "@media print": { display: "none" } }}>
      {field.suggest.map((s) => (
        <Button
          key={s.label}
          onClick={() => onGive(String(Number((from && to ? convert(s.value, from, to) : s.value).toPrecision(6))))}
          sx={{ px: 0.75, fontSize: "0.95rem", minHeight: 44 }}
        >
          {s.label}
        </Button>
      ))}
    </Stack>
  );
}

/** How a typed unit was read, where it differs from the unit shown beside it. */
function ReadAs({ field, path, text }: { field: CalculatorField; path: string; text: string }) {
  const { units, system, understood } = useCalculator();
  const got = understood[path];
  const spread = text.includes("±") || text.includes("+");
  if (!got || !field.unit || (!/[a-z°"'′″/:]/i.test(text) && !spread)) return null;
  const to = units.shownAs(field.unit, system);
  const from = units.find(field.unit);
  const error = got.error && from && to ? ` ± ${digits(convertError(got.error, from, to), to)}` : "";
  return (
    <Typography variant="body2" sx={{ color: "text.secondary", textAlign: "right", pb: 0.5 }}>
      read as {shown(units, system, got.value, field.unit)}
      {error}
    </Typography>
  );
}
