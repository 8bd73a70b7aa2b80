import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useDue } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { WhoDialog } from "../../ui/WhoDialog";
import { DueRow } from "../../ui/maintenance/DueRow";
import { Order, type Way } from "../../ui/Order";
import { useTitle } from "../../ui/title";
import { YearStrip, stretchOf, yearFrom } from "./YearStrip";
import {
  beside,
  today,
  useMaintenance,
  type DueItem,
  type DueState,
  type OnUpkeep,
} from "../../ui/maintenance/maintenance";

const pressing: DueState[] = ["overdue", "soon"];

/** In which order the engines can stand; they come with the most pressing first. */
const orders: Way<Schemas["EngineDue"]>[] = [
  ["Most pressing first", () => 0],
  ["By craft", (a, b) => `${a.craft.name} ${a.engine.name}`.localeCompare(`${b.craft.name} ${b.engine.name}`)],
  ["By berth", (a, b) => (a.craft.berth || "~").localeCompare(b.craft.berth || "~")],
  ["Most work first", (a, b) => b.due.length - a.due.length],
];

/** What is due in the whole yard, engine by engine, the most pressing first. */
export function DueScreen() {
  const due = useDue();
  const [at, setAt] = useSearchParams();
  const chosen = at.get("in") ?? undefined;
  const [find, setFind] = useState("");
  const [order, setOrder] = useState(0);
  const { say, asking, setAsking } = useMaintenance();
  useTitle("Due");
  return (
    <Box component="main" sx={{ maxWidth: 1080, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Stack direction="row" sx={{ gap: 2, flexWrap: "wrap", alignItems: "center", mb: 1 }}>
        <Typography variant="h1">Due</Typography>
        <Files />
      </Stack>
      <Loaded query={due}>
        {({ engines }) => (
          <>
            <YearStrip
              year={yearFrom(
                today(),
                engines.flatMap((e) => e.due),
              )}
              chosen={chosen}
              onChoose={(id) => setAt(id ? { in: id } : {})}
            />
            <Typography sx={{ mb: 1 }}>
              {chosen ? "As chosen above; touch it again for all that presses." : "Overdue and soon."}
            </Typography>
            <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mb: 1.5 }}>
              <TextField
                size="small"
                label="Find a craft, an engine or a task"
                value={find}
                onChange={(e) => setFind(e.target.value)}
                sx={{ width: { xs: "100%", sm: 320 } }}
              />
              <Order ways={orders} chosen={order} onChoose={setOrder} />
            </Stack>
            <List
              engines={engines
                .map((e) => ({ ...e, due: e.due.filter((d) => found(e, d, find)) }))
                .sort(orders[order]?.[1])}
              shows={(d) => (chosen ? stretchOf(d, today()) === chosen : pressing.includes(d.state))}
              onSay={say}
            />
          </>
        )}
      </Loaded>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Box>
  );
}

/** Whether an item is looked for: by its craft, its engine or what is to be done. */
const found = ({ craft, engine }: Schemas["EngineDue"], d: DueItem, wanted: string) =>
  `${craft.name} ${engine.name} ${d.do}`.toLowerCase().includes(wanted.trim().toLowerCase());

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

interface ListProps {
  engines: Schemas["EngineDue"][];
  shows: (d: DueItem) => boolean;
  onSay: OnUpkeep;
}

/** What is worth doing together stands together: behind one access, or at one haul-out; the rest after it. */
export function grouped(items: DueItem[], groups: Schemas["DueGroup"][]): { label: string; items: DueItem[] }[] {
  const left = new Set(items);
  const list = groups.flatMap((g) => {
    const of = [...left].filter((i) => g.items.includes(i.item));
    if (of.length < 2) return [];
    of.forEach((i) => left.delete(i));
    return [{ label: g.label, items: of }];
  });
  return left.size > 0 ? [...list, { label: list.length > 0 ? "Each by itself" : "", items: [...left] }] : list;
}

function List(p: ListProps) {
  const shown = p.engines.map((e) => ({ ...e, shown: e.due.filter(p.shows) })).filter((e) => e.shown.length > 0);
  if (shown.length === 0)
    return <Typography>Nothing. What nobody put down yet stands on each engine&rsquo;s own page.</Typography>;
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
            {grouped(e.shown, e.groups).map((g) => (
              <Box key={g.label} sx={{ mb: 0.5 }}>
                {g.label && (
                  <Typography variant="h3" sx={{ mt: 0.5 }}>
                    {g.label}
                  </Typography>
                )}
                {g.items.map((d) => (
                  <DueRow
                    key={d.item}
                    engine={e.engine.id}
                    item={d}
                    beside={beside(d, e.groups, e.due)}
                    onSay={p.onSay}
                  />
                ))}
              </Box>
            ))}
          </Box>
        </Box>
      ))}
    </>
  );
}
