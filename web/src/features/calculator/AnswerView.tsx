import { Box, Button, Stack, Typography } from "@mui/material";
import { footHeight } from "../../ui/Shell";
import { useState } from "react";
import type { FieldError, Calculator, CalculatorAnswer, CalculatorResult, UnitSystem } from "../../api/client";
import { Chart } from "../../ui/chart/Chart";
import { Attention } from "../../ui/Attention";
import { labelOf } from "./sheet";
import { shown, shownError, type Units } from "../../ui/units";

interface Told {
  sum: Calculator;
  answer?: CalculatorAnswer;
  missing: FieldError[];
  wrong: boolean;
  units: Units;
  system: UnitSystem;
}

const applies = (v: unknown) => v !== null && v !== undefined && v !== "";

/** An error so small beside its value is not worth a reader's time. */
const negligible = 5e-4;

/** A result as it is read: with its unit and its error, or in words. */
export function read(
  r: CalculatorResult,
  v: unknown,
  error: number | undefined,
  units: Units,
  system: UnitSystem,
): string {
  if (typeof v === "number" && r.kind === "number") {
    const spread =
      error && error > Math.abs(v) * negligible
        ? `\u202f±\u202f${shownError(units, system, error, r.unit ?? "1")} `
        : "";
    const text = shown(units, system, v, r.unit ?? "1");
    if (!spread) return text;
    const [figure = "", ...unit] = text.split("\u00a0");
    return `${figure}${spread}${unit.join("\u00a0")}`.trim();
  }
  if (typeof v === "boolean") return v ? "yes" : "no";
  return r.choices?.find((c) => c.id === v)?.label ?? String(v);
}

/** The answer: what was asked for in large figures, what to mind, the picture, the rest, the working. */
export function AnswerView({ sum, answer, missing, wrong, units, system }: Told) {
  const stale = missing.length > 0 || wrong;
  if (!answer || stale) return <StillMissing sum={sum} missing={missing} wrong={wrong} />;
  const told = sum.results.filter((r) => applies(answer.result[r.name]));
  const main = told.filter((r) => r.main);
  const rest = told.filter((r) => !r.main && r.kind !== "rows" && r.kind !== "text");
  return (
    <Stack component="section" aria-label="Answer" sx={{ gap: 2.5 }}>
      <Stack direction="row" sx={{ flexWrap: "wrap", columnGap: 4, rowGap: 1.5 }} aria-live="polite">
        {main.map((r) => (
          <Box key={r.name}>
            <Typography sx={{ color: "text.secondary", lineHeight: 1.2 }}>{r.label}</Typography>
            <Typography
              sx={{
                fontSize: { xs: "1.9rem", md: "2.2rem" },
                fontWeight: 800,
                lineHeight: 1.1,
                overflowWrap: "anywhere",
              }}
            >
              {read(r, answer.result[r.name], answer.uncertainty[r.name], units, system)}
            </Typography>
          </Box>
        ))}
      </Stack>
      {answer.warnings.map((w) => (
        <Attention key={w}>{w}</Attention>
      ))}
      {told
        .filter((r) => r.kind === "text" && !r.main)
        .map((r) => (
          <Reasons key={r.name} result={r} value={answer.result[r.name]} />
        ))}
      {told
        .filter((r) => r.kind === "rows")
        .map((r) => (
          <ResultRows
            key={r.name}
            result={r}
            rows={answer.result[r.name] as Record<string, unknown>[]}
            units={units}
            system={system}
          />
        ))}
      {answer.picture && <Chart picture={answer.picture} units={units} system={system} />}
      {rest.length > 0 && (
        <Box component="dl" sx={{ m: 0 }}>
          {rest.map((r) => (
            <Box key={r.name} sx={line}>
              <Typography component="dt" sx={{ flex: 1 }}>
                {r.label}
              </Typography>
              <Typography component="dd" sx={{ m: 0, fontWeight: 700, whiteSpace: "nowrap" }}>
                {read(r, answer.result[r.name], answer.uncertainty[r.name], units, system)}
              </Typography>
            </Box>
          ))}
        </Box>
      )}
      <Working sum={sum} answer={answer} units={units} system={system} />
    </Stack>
  );
}

/** On a phone: the answer at the foot while the fields are typed above it. */
export function AnswerStrip({ sum, answer, missing, wrong, units, system }: Told) {
  const main = answer ? sum.results.filter((r) => r.main && applies(answer.result[r.name])).slice(0, 2) : [];
  const todo = wrong ? "Something does not fit" : `Still: ${missing.map((e) => labelOf(sum, e.field)).join(", ")}`;
  return (
    <Box
      aria-hidden="true"
      sx={{
        display: { xs: "flex", md: "none" },
        "@media print": { display: "none" },
        position: "fixed",
        insetInline: 0,
        bottom: footHeight,
        zIndex: 4,
        gap: 2,
        px: 1.5,
        py: 1,
        minHeight: 64,
        alignItems: "center",
        bgcolor: (t) => t.water.next,
        color: (t) => t.water.nextInk,
      }}
    >
      {answer && missing.length === 0 && !wrong ? (
        main.map((r) => (
          <Box key={r.name} sx={{ flex: 1, minWidth: 0 }}>
            <Typography variant="body2" noWrap>
              {r.label}
            </Typography>
            <Typography noWrap sx={{ fontWeight: 800, fontSize: "1.25rem", lineHeight: 1.15 }}>
              {read(r, answer.result[r.name], answer.uncertainty[r.name], units, system)}
            </Typography>
          </Box>
        ))
      ) : (
        <Typography noWrap>{answer || missing.length > 0 || wrong ? todo : ""}</Typography>
      )}
    </Box>
  );
}

const line = { display: "flex", gap: 2, borderTop: 1, borderColor: "divider", py: 0.75, alignItems: "baseline" };

function StillMissing({ sum, missing, wrong }: { sum: Calculator; missing: FieldError[]; wrong: boolean }) {
  return (
    <Box component="section" aria-label="Answer">
      <Typography variant="h2">{wrong ? "Something does not fit" : "Still to fill in"}</Typography>
      {wrong && <Typography>It is told at its field; what you typed stays.</Typography>}
      <Stack component="ul" sx={{ m: 0, mt: 1, pl: 2.5, gap: 0.5 }}>
        {missing.map((e) => (
          <Typography component="li" key={e.field}>
            {labelOf(sum, e.field)}
          </Typography>
        ))}
      </Stack>
    </Box>
  );
}

function Reasons({ result, value }: { result: CalculatorResult; value: unknown }) {
  const list = Array.isArray(value) ? value.map(String) : [String(value)];
  if (list.length === 0) return null;
  return (
    <Box>
      <Typography variant="h3" component="h2">
        {result.label}
      </Typography>
      <Box component="ul" sx={{ m: 0, pl: 2.5, "& li::first-letter": { textTransform: "uppercase" } }}>
        {list.map((x) => (
          <Typography component="li" key={x}>
            {x}
          </Typography>
        ))}
      </Box>
    </Box>
  );
}

function ResultRows({
  result,
  rows,
  units,
  system,
}: {
  result: CalculatorResult;
  rows: Record<string, unknown>[];
  units: Units;
  system: UnitSystem;
}) {
  const [head, ...fields] = result.fields ?? [];
  return (
    <Box>
      <Typography variant="h3" component="h2">
        {result.label}
      </Typography>
      {rows.map((row, i) => (
        <Box key={i} sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
          <Typography sx={{ fontWeight: 700 }}>{String(row[head?.name ?? ""])}</Typography>
          <Stack direction="row" sx={{ flexWrap: "wrap", columnGap: 2.5 }}>
            {fields
              .filter((f) => f.kind !== "text" && applies(row[f.name]))
              .map((f) => (
                <Typography key={f.name}>
                  {f.label}: <strong>{read(f, row[f.name], undefined, units, system)}</strong>
                </Typography>
              ))}
          </Stack>
          {fields
            .filter((f) => f.kind === "text")
            .map((f) => (
              <Box component="ul" key={f.name} sx={{ m: 0, pl: 2.5 }}>
                {(row[f.name] as string[]).map((x) => (
                  <Typography component="li" variant="body2" key={x}>
                    {x}
                  </Typography>
                ))}
              </Box>
            ))}
        </Box>
      ))}
    </Box>
  );
}

function Working({
  sum,
  answer,
  units,
  system,
}: {
  sum: Calculator;
  answer: CalculatorAnswer;
  units: Units;
  system: UnitSystem;
}) {
  const [open, setOpen] = useState(false);
  const term = (t: CalculatorAnswer["working"][number]["of"][number]) =>
    `${t.symbol} = ${shown(units, system, t.value, t.unit)}`;
  return (
    <Box>
      <Button onClick={() => setOpen(!open)} aria-expanded={open} sx={{ px: 0, "@media print": { display: "none" } }}>
        {open ? "Hide the working" : "Show the working"}
      </Button>
      <Box sx={{ display: open ? "block" : "none", "@media print": { display: "block" } }}>
        <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
          {answer.working.map((w, i) => (
            <Box component="li" key={i} sx={{ mb: 1 }}>
              <Typography>
                {w.say}
                {w.gives && (
                  <>
                    : <strong>{term(w.gives)}</strong>
                  </>
                )}
              </Typography>
              {w.formula && <Typography sx={{ fontStyle: "italic" }}>{w.formula}</Typography>}
              {w.of.length > 0 && (
                <Typography variant="body2" sx={{ color: "text.secondary" }}>
                  with {w.of.map(term).join(", ")}
                </Typography>
              )}
            </Box>
          ))}
        </Box>
        <Typography variant="h3" component="h2">
          What the figures mean
        </Typography>
        {sum.notes.map((n) => (
          <Typography key={n} variant="body2" sx={{ mb: 0.5 }}>
            {n}
          </Typography>
        ))}
        <Typography variant="h3" component="h2" sx={{ mt: 1 }}>
          From
        </Typography>
        {sum.sources.map((n) => (
          <Typography key={n} variant="body2" sx={{ mb: 0.5 }}>
            {n}
          </Typography>
        ))}
      </Box>
    </Box>
  );
}
