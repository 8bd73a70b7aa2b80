import { Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useDue } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { WhoDialog } from "../../ui/Shell";
import { DueRow } from "../../ui/maintenance/DueRow";
import { beside, useMaintenance, type DueState, type OnUpkeep } from "../../ui/maintenance/maintenance";

const views: { id: string; label: string; states: DueState[] }[] = [
  { id: "pressing", label: "Overdue and soon", states: ["overdue", "soon"] },
  { id: "overdue", label: "Overdue", states: ["overdue"] },
  { id: "year", label: "The year ahead", states: ["overdue", "soon", "later"] },
];

/** What is due in the whole yard, engine by engine, the most pressing first. */
export function DueScreen() {
  const due = useDue();
  const [view, setView] = useState(views[0]);
  const { say, asking, setAsking } = useMaintenance();
  const states = view?.states ?? [];
  return (
    <Box component="main" sx={{ maxWidth: 1080, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Button component={Link} to="/" sx={{ px: 0 }}>
        ← The yard
      </Button>
      <Typography variant="h1">Due</Typography>
      <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap", my: 1.5, alignItems: "center" }}>
        {views.map((v) => (
          <Button key={v.id} aria-pressed={v === view} onClick={() => setView(v)} variant="choice" data-on={v === view}>
            {v.label}
          </Button>
        ))}
        <Files />
      </Stack>
      <Loaded query={due}>{({ engines }) => <List engines={engines} states={states} onSay={say} />}</Loaded>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Box>
  );
}

const link = { color: "text.primary", textDecoration: "underline", textUnderlineOffset: 4, px: 0 };

function Files() {
  const address = `${window.location.origin}/api/v1/calendar.ics`;
  return (
    <Stack direction="row" sx={{ gap: 2, ml: { md: "auto" }, flexWrap: "wrap" }}>
      <Button href="/api/v1/calendar.ics" download sx={link}>
        Calendar
      </Button>
      <Button href={address.replace(/^https?:/, "webcal:")} sx={link}>
        Subscribe on this machine
      </Button>
      <Button href="/api/v1/due.csv" download sx={link}>
        Table
      </Button>
    </Stack>
  );
}

function List(p: { engines: Schemas["EngineDue"][]; states: DueState[]; onSay: OnUpkeep }) {
  const shown = p.engines
    .map((e) => ({ ...e, shown: e.due.filter((d) => p.states.includes(d.state)) }))
    .filter((e) => e.shown.length > 0);
  if (shown.length === 0)
    return <Typography>Nothing. What nobody put down yet stands on each engine's own page.</Typography>;
  return (
    <>
      {shown.map((e) => (
        <Box
          key={e.engine.id}
          component="section"
          aria-label={`${e.craft.name}, ${e.engine.name}`}
          sx={{
            borderTop: 2,
            borderColor: "text.primary",
            py: 1.5,
            display: "grid",
            gridTemplateColumns: { xs: "1fr", md: "250px 1fr" },
            gap: { xs: 0.5, md: 3 },
          }}
        >
          <Box>
            <Typography variant="h2">
              <Box component={Link} to={`/engines/${e.engine.id}`} sx={{ color: "inherit", textUnderlineOffset: 4 }}>
                {e.craft.name}, {e.engine.name}
              </Box>
            </Typography>
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              {[e.craft.berth, e.hours > 0 && `about ${Math.round(e.hours)} h`].filter(Boolean).join(", ")}
            </Typography>
          </Box>
          <Box>
            {e.shown.map((d) => (
              <DueRow key={d.item} engine={e.engine.id} item={d} beside={beside(d, e.groups, e.due)} onSay={p.onSay} />
            ))}
          </Box>
        </Box>
      ))}
    </>
  );
}
