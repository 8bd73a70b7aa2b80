import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { useInventory, useInventoryFor } from "../../api/queries";
import { amount, numberOf, type InventoryLine } from "../../ui/inventory";
import { Stepper } from "../../ui/Stepper";
import { useUnkept } from "../../ui/unkept";
import type { Act, Teardown } from "../../ui/job/teardown";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface PartsUsedProps {
  job: string;
  hands: Teardown;
  engine: string;
  onAct: Act;
}

const nothing = { label: "", quantity: 1, number: "", price: "", of: "" };

/** Parts that the job used up: what its tasks usually take, or anything else. */
export function PartsUsed({ job, hands, engine, onAct }: PartsUsedProps) {
  const [draft, setDraft, forget] = useUnkept(job, "A part used", nothing);
  const { label, quantity, number, price, of } = draft;
  const set = (change: Partial<typeof nothing>) => setDraft({ ...draft, ...change });
  const usual = [...new Set(hands.begun.flatMap((t) => t.parts ?? []))].filter(
    (u) => ![...hands.used, ...hands.fitted_new].some((x) => x.label === u),
  );
  const use = () => {
    const each = Number(price.replace(",", "."));
    const used = { label: label.trim(), quantity, state: "new" as const };
    onAct(
      {
        do: "used",
        used: {
          ...used,
          ...(of && { for: of }),
          ...(number.trim() && { part_number: number.trim() }),
          ...(each > 0 && { price: each }),
        },
      },
      `Used: ${label.trim()}`,
    );
    setDraft(nothing);
    forget();
  };
  return (
    <Box component="section" aria-label="Parts used">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Parts used
      </Typography>
      {hands.used.map((u, i) => (
        <Typography key={i} sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
          {u.quantity} × {u.label}
          {u.part_number && `, ${u.part_number}`}
          {u.price ? `, ${(u.price * u.quantity).toFixed(2)}` : ""}
        </Typography>
      ))}
      <FittedNew
        list={hands.fitted_new}
        chosen={of}
        onChoose={(u) => set({ of: u.for ?? "", label: u.label, quantity: u.quantity })}
      />
      <FromShelf engine={engine} of={of} setOf={(key) => set({ of: key })} onAct={onAct} />
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, my: 1 }}>
        {usual.map((u) => (
          <ChoiceButton key={u} onClick={() => set({ label: u, of: "" })} data-on={label === u}>
            {u}
          </ChoiceButton>
        ))}
      </Stack>
      <TextField
        label="Part"
        value={label}
        onChange={(e) => set({ label: e.target.value })}
        fullWidth
        sx={{ bgcolor: "background.paper" }}
      />
      <Stack direction="row" sx={{ gap: 1, mt: 1 }}>
        <TextField
          label="Part number"
          value={number}
          onChange={(e) => set({ number: e.target.value })}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
        <TextField
          label="Price each"
          value={price}
          onChange={(e) => set({ price: e.target.value })}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
      </Stack>
      <Box sx={{ mt: 1 }}>
        <Stepper
          label="How many"
          value={quantity}
          unit=""
          most={50}
          onChange={(n) => set({ quantity: Math.max(1, n) })}
        />
      </Box>
      <Button
        variant="outlined"
        disabled={label.trim() === ""}
        onClick={use}
        sx={{ mt: 1, borderColor: "text.primary", color: "text.primary" }}
      >
        Put it down as used
      </Button>
    </Box>
  );
}

type Used = Teardown["used"][number];

/** What went back new counts as used; its number and price can be put down beside it. */
function FittedNew(p: { list: Used[]; chosen: string; onChoose: (u: Used) => void }) {
  return p.list.map((u) => (
    <Stack
      key={u.for}
      direction="row"
      sx={{ borderTop: 1, borderColor: "divider", py: 0.25, gap: 1, alignItems: "center" }}
    >
      <Typography sx={{ mr: "auto" }}>
        {u.quantity} × {u.label}
        <Box component="span" sx={{ color: "text.secondary" }}>
          , fitted new
        </Box>
      </Typography>
      <ChoiceButton
        aria-label={`Number and price: ${u.label}`}
        aria-pressed={p.chosen === u.for}
        data-on={p.chosen === u.for}
        onClick={() => p.onChoose(u)}
      >
        Number and price
      </ChoiceButton>
    </Stack>
  ));
}

interface Taking {
  /** The item that the part goes in for; empty where none was chosen. */
  of: string;
  setOf: (key: string) => void;
  onAct: Act;
}

/** Parts on the yard's inventory, those that fit this engine first, taken with one touch and counted down there. */
function FromShelf({ engine, ...taking }: Taking & { engine: string }) {
  const [find, setFind] = useState("");
  const words = find.trim().toLowerCase();
  const searching = words.length > 1;
  const fitting = useInventoryFor(engine).data?.lines ?? [];
  const all = useInventory(searching).data?.lines ?? [];
  const found = searching
    ? all.filter(
        (l) =>
          !fitting.some((h) => h.id === l.id) && `${l.is.label} ${l.is.number ?? ""}`.toLowerCase().includes(words),
      )
    : [];
  return (
    <Box component="section" aria-label="From stock" sx={{ my: 1 }}>
      {fitting.length > 0 && <Typography variant="h3">In stock for this engine</Typography>}
      {fitting.map((l) => (
        <OneOfShelf key={l.id} line={l} {...taking} />
      ))}
      <TextField
        size="small"
        label="Something else in stock"
        value={find}
        onChange={(e) => setFind(e.target.value)}
        helperText={searching && found.length === 0 ? "Nothing like that lies there" : undefined}
        fullWidth
        sx={{ mt: 1, bgcolor: "background.paper" }}
      />
      {found.map((l) => (
        <OneOfShelf key={l.id} line={l} {...taking} />
      ))}
    </Box>
  );
}

/** A part of the inventory: one piece with one touch, or so much of what is counted in litres and the like. */
function OneOfShelf({ line: { id, is, have }, of, setOf, onAct }: Taking & { line: InventoryLine }) {
  const [much, setMuch] = useState("1");
  const quantity = is.unit ? (numberOf(much) ?? 0) : 1;
  const take = () => {
    const used = { label: is.label, quantity, state: "new" as const, stock: id };
    onAct(
      {
        do: "used",
        used: {
          ...used,
          ...(of && { for: of }),
          ...(is.holds && { holds: is.holds }),
          ...(is.number && { part_number: is.number }),
          ...(is.price && { price: is.price }),
        },
      },
      `Taken from stock: ${is.label}`,
    );
    setOf("");
  };
  return (
    <Stack direction="row" sx={{ alignItems: "center", gap: 1, py: 0.5 }}>
      <Typography sx={{ mr: "auto" }}>
        {is.label}
        {is.holds && ` (${is.holds.join(", ")})`}:{" "}
        {have > 0 ? [amount(have, is.unit), is.where].filter(Boolean).join(", ") : "none left"}
      </Typography>
      {is.unit && (
        <TextField
          size="small"
          label={is.unit}
          value={much}
          onChange={(e) => setMuch(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal", "aria-label": `How much: ${is.label}` } }}
          sx={{ width: 84, flexShrink: 0, bgcolor: "background.paper" }}
        />
      )}
      <ChoiceButton
        disabled={have <= 0 || quantity <= 0}
        onClick={take}
        sx={{ whiteSpace: "nowrap", flexShrink: 0 }}
        aria-label={is.unit ? `Take: ${is.label}` : `Take one: ${is.label}`}
      >
        {is.unit ? "Take" : "Take one"}
      </ChoiceButton>
    </Stack>
  );
}
