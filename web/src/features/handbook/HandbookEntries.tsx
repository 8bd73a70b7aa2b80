import { Box, ButtonBase, Stack, Table, TableBody, TableCell, TableHead, TableRow, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState, type ReactNode } from "react";
import type { Catalogue } from "../../api/client";
import { percent } from "../../ui/stations";
import { rateWords, strengthWords } from "./handbook";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";
import { TestPressure } from "../../ui/TestPressure";
import { lower, minutes, type Words } from "../../ui/words";

/** How it should look, and how it looks when it is so. */
function GoodAndBad({ finding }: { finding: string }) {
  const drawn = useDrawn();
  const pair = [
    ["as it should be", drawn.answer(finding, "absent")],
    ["like this", drawn.answer(finding, "present")],
  ] as const;
  return (
    <Stack direction="row" sx={{ gap: 2, flexWrap: "wrap", my: 0.75 }}>
      {pair
        .filter(([, of]) => of?.plate)
        .map(([say, of]) => (
          <Box key={say} component="figure" sx={{ m: 0 }}>
            <Drawn of={of} label={`${drawn.says(of)}, ${say}`} width={160} />
            <Typography component="figcaption" variant="body2" sx={{ color: "text.secondary" }}>
              {say}
            </Typography>
          </Box>
        ))}
    </Stack>
  );
}

/** A line that opens. */
function Entry({ title, aside, children }: { title: string; aside: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider" }}>
      <ButtonBase
        onClick={() => setOpen(!open)}
        aria-expanded={open}
        sx={{ width: "100%", minHeight: 52, textAlign: "left", gap: 1.5, py: 0.75 }}
      >
        <Typography sx={{ fontWeight: 650, lineHeight: 1.2, mr: "auto" }}>{title}</Typography>
        <Typography variant="body2" sx={{ color: "text.secondary", textAlign: "right", flex: "none", maxWidth: "45%" }}>
          {aside}
        </Typography>
      </ButtonBase>
      {open && <Box sx={{ pb: 1.5, pl: 2, borderLeft: 4, borderColor: "divider", mb: 1 }}>{children}</Box>}
    </Box>
  );
}

export function FaultEntry({ fault, words }: { fault: Catalogue["faults"][number]; words: Words }) {
  return (
    <Entry title={fault.label} aside={rateWords(fault.prior)}>
      <FaultDrawn fault={fault} />
      <Typography>Why so common: {fault.why}.</Typography>
      <Typography>
        <strong>Cure:</strong> {fault.remedy}
      </Typography>
      {fault.sure.map((s) => (
        <Typography key={s.check + s.finding}>
          <strong>Sure look:</strong> {lower(words.check(s.check))} shows “{lower(words.finding(s.finding))}”.
          {s.rivals
            .map((r) => ` It cannot tell it from ${lower(words.fault(r.fault))}; ${lower(words.check(r.told_by))} can.`)
            .join("")}
        </Typography>
      ))}
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        Common practice.
      </Typography>
    </Entry>
  );
}

function FaultDrawn({ fault }: { fault: Catalogue["faults"][number] }) {
  const drawn = useDrawn();
  const of = drawn.fault(fault.id);
  return <Drawn of={of} label={`${fault.label}: ${drawn.says(of)}`} width={160} />;
}

type Signs = Catalogue["findings"][number];

export function FindingEntry({ finding, catalogue, words }: { finding: Signs; catalogue: Catalogue; words: Words }) {
  const { water } = useTheme();
  const checks = catalogue.checks.filter((k) => k.settles.includes(finding.id));
  const sorted = (list: typeof finding.causes) => [...list].sort((a, b) => b.strength - a.strength);
  const aside =
    finding.causes.length === 1 ? words.fault(finding.causes[0]?.fault ?? "") : `${finding.causes.length} causes`;
  return (
    <Entry title={finding.label} aside={finding.causes.length === 0 ? "speaks against faults" : aside}>
      <GoodAndBad finding={finding.id} />
      {finding.at && <ByPoint at={finding.at} catalogue={catalogue} words={words} />}
      {sorted(finding.at ? [] : finding.causes).map((l) => (
        <Typography key={l.fault}>
          <Box component="span" sx={{ color: water.suspect, fontWeight: 650 }}>
            ▲ {words.fault(l.fault)}
          </Box>{" "}
          {strengthWords(l.strength)}: {l.why}.
        </Typography>
      ))}
      {sorted(finding.blocks).map((l) => (
        <Typography key={l.fault}>
          <Box component="span" sx={{ color: water.clear, fontWeight: 650 }}>
            ▽ {words.fault(l.fault)}
          </Box>{" "}
          {strengthWords(l.strength)} keeps it away: {l.why}.
        </Typography>
      ))}
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        Without any of these {percent(finding.leak)}: {finding.leak_why}.{" "}
        {checks.length > 0 && `Settled by: ${checks.map((k) => lower(k.label).replace("?", "")).join(", ")}. `}
        {finding.at ? "The table is the engine model's, the rest common practice." : "Common practice."}
      </Typography>
    </Entry>
  );
}

/** How often each fault shows in a reading, by the operating point that it is taken at. */
function ByPoint({ at, catalogue, words }: { at: NonNullable<Signs["at"]>; catalogue: Catalogue; words: Words }) {
  const points = catalogue.points;
  const shown = (fault: string) => points.map((p) => at[p.id]?.[fault] ?? 0);
  const hardest = (fault: string) => shown(fault).at(-1) ?? 0;
  const faults = [...new Set(points.flatMap((p) => Object.keys(at[p.id] ?? {})))].sort(
    (a, b) => hardest(b) - hardest(a) || a.localeCompare(b),
  );
  return (
    <Table size="small" sx={{ maxWidth: 480, my: 1 }}>
      <TableHead>
        <TableRow>
          <TableCell>Shows, by the engine model</TableCell>
          {points.map((p) => (
            <TableCell key={p.id} align="right">
              {p.label}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {faults.map((f) => (
          <TableRow key={f}>
            <TableCell>{words.fault(f)}</TableCell>
            {shown(f).map((x, i) => (
              <TableCell key={points[i]?.id} align="right">
                {x === 0 ? "hardly" : percent(x)}
              </TableCell>
            ))}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

function CheckDrawn({ check }: { check: string }) {
  const drawn = useDrawn();
  const of = drawn.check(check);
  return <Drawn of={of} label={drawn.says(of)} width={176} />;
}

export function CheckEntry({
  check,
  catalogue,
  words,
}: {
  check: Catalogue["checks"][number];
  catalogue: Catalogue;
  words: Words;
}) {
  const { water } = useTheme();
  const access = catalogue.access.find((a) => a.id === check.access);
  const needs = catalogue.needs.filter((n) => check.needs.includes(n.id)).map((n) => lower(n.label));
  return (
    <Entry
      title={check.label}
      aside={`${minutes(check.minutes)}${access ? ` + ${minutes(access.minutes)}: ${lower(access.label)}` : ""}`}
    >
      {needs.length > 0 && (
        <Typography>
          <strong>First:</strong> {needs.join("; ")}.
        </Typography>
      )}
      <CheckDrawn check={check.id} />
      <Box component="ol" sx={{ my: 0.5, pl: 2.5 }}>
        {check.how.map((h) => (
          <li key={h}>{h}</li>
        ))}
      </Box>
      <TestPressure check={check} />
      {catalogue.cautions
        .filter((k) => check.cautions.includes(k.id))
        .map((k) => (
          <Typography key={k.id} sx={{ borderLeft: 6, borderColor: water.found, pl: 1.5, mb: 0.5 }}>
            <strong>{k.label}.</strong> {k.text}
          </Typography>
        ))}
      <Typography>
        <strong>Settles:</strong> {check.settles.map((f) => lower(words.finding(f))).join("; ")}.
      </Typography>
    </Entry>
  );
}
