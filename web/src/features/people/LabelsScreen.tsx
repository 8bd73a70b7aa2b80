import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useLabels } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { QRCode } from "../../ui/QRCode";
import { useTitle } from "../../ui/title";

type Label = Schemas["Label"];

/**
 * A sheet of labels: each opens its engine or its part where a phone's camera scans it, or by its code in the search.
 */
export function LabelsScreen() {
  useTitle("Labels");
  const labels = useLabels();
  return (
    <Box component="main" sx={{ maxWidth: 1080, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Typography variant="h1" sx={onScreen}>
        Labels
      </Typography>
      <Typography sx={{ color: "text.secondary", mb: 1.5, ...onScreen }}>
        One for each engine, each gateway and each part. A phone&apos;s camera opens its page, and so does “Scan a
        label” in the search; where nothing scans it, the code finds it there.
      </Typography>
      <Loaded query={labels}>{(l) => <Sheet labels={l.labels} more={l.more} />}</Loaded>
    </Box>
  );
}

const onScreen = { "@media print": { display: "none" } } as const;

function Sheet({ labels, more }: { labels: Label[]; more: number }) {
  const [find, setFind] = useState("");
  const wanted = find.trim().toLowerCase();
  const shown = labels.filter((l) => `${l.title} ${l.say}`.toLowerCase().includes(wanted));
  return (
    <>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mb: 2, ...onScreen }}>
        <TextField size="small" label="Only those with" value={find} onChange={(e) => setFind(e.target.value)} />
        <Button variant="contained" onClick={() => window.print()} disabled={shown.length === 0}>
          Print {shown.length === 1 ? "1 label" : `${shown.length} labels`}
        </Button>
      </Stack>
      {more > 0 && <Typography sx={onScreen}>{more} more are not shown: a sheet holds 400.</Typography>}
      <Box
        component="ul"
        aria-label="Labels"
        sx={{
          listStyle: "none",
          p: 0,
          m: 0,
          display: "grid",
          gap: 1,
          gridTemplateColumns: "repeat(auto-fill, minmax(250px, 1fr))",
          "@media print": { gridTemplateColumns: "1fr 1fr" },
        }}
      >
        {shown.map((l) => (
          <One key={l.kind + l.id} label={l} />
        ))}
      </Box>
    </>
  );
}

/** White as it is printed, in every light. */
function One({ label: l }: { label: Label }) {
  return (
    <Stack
      component="li"
      direction="row"
      sx={{ bgcolor: "#fff", color: "#000", border: "1px solid #000", p: 1, gap: 1, breakInside: "avoid" }}
    >
      <Box sx={{ flex: "none" }}>
        <QRCode code={l.qr} label={`Code of ${l.title}`} size={104} />
      </Box>
      <Box sx={{ minWidth: 0, overflowWrap: "anywhere" }}>
        <Typography sx={{ fontWeight: 750, lineHeight: 1.15 }}>{l.title}</Typography>
        <Typography variant="body2">{l.say}</Typography>
        <Typography variant="body2" sx={{ fontFamily: "monospace", mt: 0.5 }}>
          {l.code}
        </Typography>
      </Box>
    </Stack>
  );
}
