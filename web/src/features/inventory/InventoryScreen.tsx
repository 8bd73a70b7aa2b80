import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useInventory } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { ImpellerFit } from "./ImpellerFit";
import { PartForm } from "./PartForm";
import { useInventoryActs, type OnShelf } from "../../ui/inventory";
import { InventoryRow } from "./InventoryRow";
import { WhoDialog } from "../../ui/WhoDialog";
import { Order, type Way } from "../../ui/Order";
import { useTitle } from "../../ui/title";

/** The yard's shelf: what is to be ordered first, then all that lies there. */
export function InventoryScreen() {
  useTitle("Parts");
  const shelf = useInventory();
  const { act, asking, setAsking } = useInventoryActs();
  const [adding, setAdding] = useState(false);
  return (
    <Box component="main" sx={{ maxWidth: 900, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Button component={Link} to="/" sx={{ px: 0 }}>
        ← The yard
      </Button>
      <Stack direction="row" sx={{ gap: 1.5, alignItems: "center", flexWrap: "wrap" }}>
        <Typography variant="h1" sx={{ mr: "auto" }}>
          Parts
        </Typography>
        <Button href="/api/v1/inventory.csv" download sx={{ color: "text.primary", textDecoration: "underline" }}>
          Table
        </Button>
        <Button
          variant="outlined"
          onClick={() => setAdding(true)}
          sx={{ borderColor: "text.primary", color: "text.primary" }}
        >
          Add a part
        </Button>
      </Stack>
      <ImpellerFit />
      <Loaded query={shelf}>{(s) => <Lines shelf={s} onAct={act} />}</Loaded>
      {adding && <PartForm onAct={act} onClose={() => setAdding(false)} />}
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Box>
  );
}

type Line = Schemas["Inventory"]["lines"][number];

/** In which order the parts can stand. */
const orders: Way<Line>[] = [
  ["By name", (a, b) => a.is.label.localeCompare(b.is.label)],
  ["By place", (a, b) => (a.is.where ?? "~").localeCompare(b.is.where ?? "~")],
  ["Fewest first", (a, b) => a.have - b.have],
  ["Dearest first", (a, b) => (b.is.price ?? 0) - (a.is.price ?? 0)],
];

function Lines({ shelf, onAct }: { shelf: Schemas["Inventory"]; onAct: OnShelf }) {
  const [params] = useSearchParams();
  const [order, setOrder] = useState(0);
  const [find, setFind] = useState(params.get("find") ?? "");
  const wanted = find.trim().toLowerCase();
  const needs = new Map(shelf.to_order.map((n) => [n.part, n]));
  const shown = shelf.lines
    .filter((l) => `${l.is.label} ${l.is.number ?? ""} ${l.is.where ?? ""}`.toLowerCase().includes(wanted))
    .sort(orders[order]?.[1]);
  const groups: [string, typeof shown][] = [
    ["To order", shown.filter((l) => needs.has(l.id))],
    ["On the way", shown.filter((l) => !needs.has(l.id) && l.orders.length > 0)],
    ["In stock", shown.filter((l) => !needs.has(l.id) && l.orders.length === 0)],
  ];
  if (shelf.lines.length === 0) return <Typography>Nothing yet. Add the first part, then count it.</Typography>;
  return (
    <>
      {shelf.lines.length > 5 && (
        <Stack direction="row" sx={{ gap: 1, mb: 1, flexWrap: "wrap" }}>
          <TextField size="small" label="Find a part" value={find} onChange={(e) => setFind(e.target.value)} />
          <Order ways={orders} chosen={order} onChoose={setOrder} />
        </Stack>
      )}
      {groups
        .filter(([, lines]) => lines.length > 0)
        .map(([name, lines]) => (
          <Box key={name} component="section" aria-label={name} sx={{ mb: 2.5 }}>
            <Typography variant="h2" sx={{ borderBottom: 2, borderColor: "text.primary", pb: 0.5 }}>
              {name}
            </Typography>
            {lines.map((l) => (
              <InventoryRow key={l.id} line={l} need={needs.get(l.id)} names={shelf} onAct={onAct} />
            ))}
          </Box>
        ))}
    </>
  );
}
