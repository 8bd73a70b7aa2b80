import { Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { fitImpeller, type Schemas } from "../../api/client";
import { useNotice } from "../notice";
import { pick } from "../SumFields";
import { numberOf } from "./shelf";

const drives = ["key", "spline", "single-flat", "double-flat", "pin", "thread"];
const fitWords = { fits: "Fits", "may-fit": "May fit", "does-not-fit": "Does not fit" };

/** The old impeller measured: what on the shelf and at the supplier goes in its place. */
export function FitCheck() {
  const [open, setOpen] = useState(false);
  const [od, setOd] = useState("");
  const [width, setWidth] = useState("");
  const [bore, setBore] = useState("");
  const [drive, setDrive] = useState("");
  const [blades, setBlades] = useState("");
  const [list, setList] = useState<Schemas["Fittings"]["list"]>();
  const { failed } = useNotice();
  const ask = () => {
    const figure = (t: string) => numberOf(t) ?? 0;
    fitImpeller({
      outside_diameter_mm: figure(od),
      width_mm: figure(width),
      bore_mm: figure(bore),
      blades: Math.round(figure(blades)),
      drive,
    }).then((f) => setList(f.list), failed);
  };
  const field = (label: string, v: string, set: (t: string) => void) => (
    <TextField
      label={label}
      value={v}
      onChange={(e) => set(e.target.value)}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
      sx={{ bgcolor: "background.paper" }}
    />
  );
  return (
    <Box component="section" aria-label="Which impeller fits?" sx={{ my: 2 }}>
      <Button onClick={() => setOpen(!open)} aria-expanded={open} sx={pick(open)}>
        Which impeller fits?
      </Button>
      {open && (
        <Stack sx={{ gap: 1, mt: 1 }}>
          <Box sx={{ display: "grid", gap: 1, gridTemplateColumns: { xs: "1fr 1fr", md: "repeat(5, 1fr)" } }}>
            {field("Outside, mm", od, setOd)}
            {field("Width, mm", width, setWidth)}
            {field("Bore, mm", bore, setBore)}
            {field("Blades", blades, setBlades)}
            <TextField
              select
              label="Drive"
              value={drive}
              onChange={(e) => setDrive(e.target.value)}
              sx={{ bgcolor: "background.paper" }}
            >
              {drives.map((d) => (
                <MenuItem key={d} value={d}>
                  {d}
                </MenuItem>
              ))}
            </TextField>
          </Box>
          <Button variant="contained" onClick={ask} sx={{ alignSelf: "flex-start" }}>
            Compare
          </Button>
          {list?.map((f) => (
            <Box key={f.name} sx={{ borderTop: 1, borderColor: "divider", pt: 0.5 }}>
              <Typography sx={{ fontWeight: f.fit === "fits" ? 750 : 550 }}>
                {fitWords[f.fit]}: {f.name}
              </Typography>
              <Typography variant="body2" sx={{ color: "text.secondary" }}>
                {f.reasons.join("; ")}
              </Typography>
            </Box>
          ))}
          <Typography variant="body2" sx={{ color: "text.secondary" }}>
            Blades pressed flat; an old one whose blades have taken a set measures small. Lay the new seal on the old.
          </Typography>
        </Stack>
      )}
    </Box>
  );
}
