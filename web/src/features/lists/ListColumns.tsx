import { Alert, Box, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { Fold } from "../../ui/Fold";
import { ChoiceButton } from "../../ui/ChoiceButton";
import { lower } from "../../ui/words";

type File = Schemas["ListFile"];

interface Props {
  kinds: Schemas["ListKind"][];
  look: Schemas["ListLook"];
  file: File;
  onChange: (file: File) => void;
}

/** What the list is, and what each of its columns holds: as recognised, to be put right. */
export function ListColumns({ kinds, look, file, onChange }: Props) {
  const kind = kinds.find((k) => k.id === look.kind);
  const columns = look.columns.map((c) => c.column);
  const set = (i: number, to: string) =>
    onChange({
      ...file,
      kind: look.kind,
      // a column is held once: where it stood before it is left out
      columns: columns.map((c, k) => (k === i ? to : c === to ? "" : c)),
    });
  return (
    <Box component="section" aria-label="What is in the list">
      <Typography variant="h2" sx={{ overflowWrap: "anywhere" }}>
        {file.name}
      </Typography>
      <Stack direction="row" role="group" aria-label="It is a list of" sx={{ gap: 1, flexWrap: "wrap", my: 1 }}>
        {kinds.map((k) => (
          <ChoiceButton
            key={k.id}
            aria-pressed={k.id === look.kind}
            data-on={k.id === look.kind}
            onClick={() => onChange({ name: file.name, data: file.data, sheet: file.sheet, kind: k.id })}
          >
            {k.label}
          </ChoiceButton>
        ))}
        {look.sheets.length > 1 && (
          <TextField
            select
            size="small"
            label="Sheet"
            value={look.sheet}
            onChange={(e) => onChange({ name: file.name, data: file.data, sheet: e.target.value })}
            sx={{ minWidth: 160 }}
          >
            {look.sheets.map((s) => (
              <MenuItem key={s} value={s}>
                {s}
              </MenuItem>
            ))}
          </TextField>
        )}
      </Stack>
      {look.refused.map((r) => (
        <Alert key={r} severity="warning" sx={{ mb: 1 }}>
          {r}
        </Alert>
      ))}
      <Fold title={heldWords(columns)} open={look.refused.length > 0}>
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" }, columnGap: 3 }}>
          {look.columns.map((c, i) => (
            <Box key={i} sx={line}>
              <Box sx={{ minWidth: 0 }}>
                <Typography sx={{ fontWeight: 700, overflowWrap: "anywhere" }}>
                  {c.heading || `Column ${i + 1}`}
                </Typography>
                <Typography variant="body2" noWrap sx={{ color: "text.secondary" }}>
                  {c.samples.join("  ·  ") || "empty"}
                </Typography>
              </Box>
              <TextField
                select
                size="small"
                label="It is"
                value={c.column}
                onChange={(e) => set(i, e.target.value)}
                slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
                sx={{ bgcolor: "background.paper", minWidth: 0 }}
              >
                <MenuItem value="">left out</MenuItem>
                {kind?.columns.map((k) => (
                  <MenuItem key={k.id} value={k.id}>
                    {k.label}
                  </MenuItem>
                ))}
              </TextField>
            </Box>
          ))}
        </Box>
      </Fold>
      <Usual kind={kind} held={columns} file={file} onChange={(usual) => onChange({ ...file, usual })} />
    </Box>
  );
}

function heldWords(columns: string[]) {
  const out = columns.filter((c) => c === "").length;
  return `Columns: ${columns.length - out} recognised${out > 0 ? `, ${out} left out` : ""}`;
}

const line = {
  display: "grid",
  gridTemplateColumns: "minmax(0, 1.2fr) minmax(0, 1fr)",
  gap: 1,
  alignItems: "center",
  borderTop: 1,
  borderColor: "divider",
  py: 0.75,
} as const;

/** What holds for every row that says nothing: said once instead of in a column. */
function Usual(p: {
  kind?: Schemas["ListKind"];
  held: string[];
  file: File;
  onChange: (usual: Record<string, string>) => void;
}) {
  const [given, setGiven] = useState(p.file.usual ?? {});
  const families = useCatalogue().data?.families ?? [];
  const choices: Record<string, string[]> = {
    cooling: families.map((f) => lower(f.label)),
    fuel: ["diesel", "petrol"],
  };
  const meter = p.held.includes("hours") && !p.held.includes("read") && p.kind?.id === "craft";
  const list = p.kind?.columns.filter((c) => c.usual || (c.id === "read" && meter)) ?? [];
  if (list.length === 0) return null;
  const set = (id: string, to: string) => {
    const usual = Object.fromEntries(Object.entries({ ...given, [id]: to }).filter(([, v]) => v !== ""));
    setGiven(usual);
    p.onChange(usual);
  };
  return (
    <Box role="group" aria-label="Where the list says nothing" sx={{ mt: 1.5 }}>
      <Typography sx={{ fontWeight: 700, mb: 1 }}>Where the list says nothing</Typography>
      <Stack direction="row" sx={{ gap: 1.5, flexWrap: "wrap" }}>
        {list.map((c) =>
          c.day ? (
            <TextField
              key={c.id}
              type="date"
              label={c.label}
              value={given[c.id] ?? ""}
              onChange={(e) => set(c.id, e.target.value)}
              slotProps={{ inputLabel: { shrink: true } }}
            />
          ) : (
            <TextField
              key={c.id}
              select
              label={c.label}
              value={given[c.id] ?? ""}
              onChange={(e) => set(c.id, e.target.value)}
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
              sx={{ minWidth: 160 }}
            >
              <MenuItem value="">not said</MenuItem>
              {choices[c.id]?.map((v) => (
                <MenuItem key={v} value={v}>
                  {v}
                </MenuItem>
              ))}
            </TextField>
          ),
        )}
      </Stack>
    </Box>
  );
}
