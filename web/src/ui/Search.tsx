import { Box, Button, Dialog, DialogContent, Stack, TextField, Typography, useMediaQuery } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { lazy, Suspense, useCallback, useDeferredValue, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { useSearch, useSession } from "../api/queries";
import { ChoiceButton } from "./ChoiceButton";

const Scanner = lazy(() => import("./Scanner").then((m) => ({ default: m.Scanner })));

type Hit = Schemas["Hit"];

/** What each kind is called, in the order in which they are shown, and where it leads. */
const kinds: Record<Hit["kind"], { label: string; to: (h: Hit) => string }> = {
  engine: { label: "Engines", to: (h) => `/engines/${h.id}` },
  job: { label: "Jobs", to: (h) => `/jobs/${h.id}/next` },
  part: { label: "Parts", to: (h) => `/parts?find=${encodeURIComponent(h.label)}` },
  station: { label: "Handbook: stations", to: (h) => `/handbook?station=${h.id}` },
  fault: { label: "Handbook: faults", to: (h) => `/handbook?find=${encodeURIComponent(h.label)}` },
  check: { label: "Handbook: checks", to: (h) => `/handbook?find=${encodeURIComponent(h.label)}` },
  calculator: { label: "Calculators", to: (h) => `/calculators/${h.id}` },
};

/** Finds engines, jobs, parts, the handbook's entries and calculators by a word of them. */
export function SearchDialog({ onClose }: { onClose: () => void }) {
  const phone = useMediaQuery(useTheme().breakpoints.down("sm"));
  const [typed, setTyped] = useState("");
  const wanted = useDeferredValue(typed.trim());
  const { data, isError } = useSearch(wanted);
  const hits = data?.hits ?? [];
  const [scanning, setScanning] = useState(false);
  // labels lead nowhere from a machine alone
  const labelled = useSession()?.mode === "yard" && !!navigator.mediaDevices;
  const go = useNavigate();
  const found = useCallback(
    (path: string) => {
      onClose();
      void go(path);
    },
    [go, onClose],
  );
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      fullScreen={phone}
      maxWidth="sm"
      slotProps={{ paper: { "aria-label": "Search" } }}
      sx={{ "& .MuiDialog-container": { alignItems: "flex-start" } }}
    >
      <DialogContent>
        <Stack direction="row" sx={{ gap: 1, alignItems: "center" }}>
          <TextField
            label="Craft, engine, job, part, fault, check, calculator"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            autoFocus
            fullWidth
            type="search"
            slotProps={{ htmlInput: { maxLength: 200 } }}
          />
          <Button onClick={onClose}>Close</Button>
        </Stack>
        {labelled && !scanning && (
          <ChoiceButton sx={{ mt: 1 }} onClick={() => setScanning(true)}>
            Scan a label
          </ChoiceButton>
        )}
        {scanning && (
          <Suspense>
            <Scanner onFound={found} onClose={() => setScanning(false)} />
          </Suspense>
        )}
        <Box aria-live="polite" sx={{ mt: 1 }}>
          {isError && <Typography>The program does not answer: try again.</Typography>}
          {wanted && data && hits.length === 0 && (
            <Typography>Nothing is called that. Try one word, as in drip, riser or a boat&rsquo;s name.</Typography>
          )}
          {(Object.keys(kinds) as Hit["kind"][]).map((kind) => (
            <Hits key={kind} kind={kind} hits={hits.filter((h) => h.kind === kind)} onClose={onClose} />
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
}

function Hits({ kind, hits, onClose }: { kind: Hit["kind"]; hits: Hit[]; onClose: () => void }) {
  if (hits.length === 0) return null;
  const { label, to } = kinds[kind];
  return (
    <Box component="section" aria-label={label} sx={{ mt: 1.5 }}>
      <Typography variant="h3">{label}</Typography>
      {hits.map((h) => (
        <Box
          key={h.id}
          component={Link}
          to={to(h)}
          onClick={onClose}
          sx={{
            display: "block",
            minHeight: 48,
            py: 0.75,
            borderTop: 1,
            borderColor: "divider",
            color: "text.primary",
            textDecoration: "none",
          }}
        >
          <Typography sx={{ fontWeight: 650, lineHeight: 1.25 }}>{h.label}</Typography>
          <Typography variant="body2" noWrap sx={{ color: "text.secondary" }}>
            {h.say}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
