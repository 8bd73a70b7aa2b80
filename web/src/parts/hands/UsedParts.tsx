import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { useShelf } from "../../api/queries";
import { amount, type ShelfLine } from "../shelf/shelf";
import { Stepper } from "../Stepper";
import { pick } from "../SumFields";
import type { Act, Hands } from "./hands";

/** Parts that the job used up: what its tasks usually take, or anything else. */
export function UsedParts({ hands, engine, onAct }: { hands: Hands; engine: string; onAct: Act }) {
  const [label, setLabel] = useState("");
  const [quantity, setQuantity] = useState(1);
  const [number, setNumber] = useState("");
  const [price, setPrice] = useState("");
  const usual = [...new Set(hands.begun.flatMap((t) => t.parts ?? []))].filter(
    (u) => !hands.used.some((x) => x.label === u),
  );
  const use = () => {
    const each = Number(price.replace(",", "."));
    const used = { label: label.trim(), quantity, state: "new" as const };
    onAct(
      {
        do: "used",
        used: { ...used, ...(number.trim() && { part_number: number.trim() }), ...(each > 0 && { price: each }) },
      },
      `Used: ${label.trim()}`,
    );
    setLabel("");
    setNumber("");
    setPrice("");
    setQuantity(1);
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
      <FromShelf engine={engine} onAct={onAct} />
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, my: 1 }}>
        {usual.map((u) => (
          <Button key={u} onClick={() => setLabel(u)} sx={pick(label === u)}>
            {u}
          </Button>
        ))}
      </Stack>
      <TextField
        label="Part"
        value={label}
        onChange={(e) => setLabel(e.target.value)}
        fullWidth
        sx={{ bgcolor: "background.paper" }}
      />
      <Stack direction="row" sx={{ gap: 1, mt: 1 }}>
        <TextField
          label="Part number"
          value={number}
          onChange={(e) => setNumber(e.target.value)}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
        <TextField
          label="Price each"
          value={price}
          onChange={(e) => setPrice(e.target.value)}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
      </Stack>
      <Box sx={{ mt: 1 }}>
        <Stepper label="How many" value={quantity} unit="" most={50} onChange={(n) => setQuantity(Math.max(1, n))} />
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

/** Parts on the yard's shelf that fit this engine, taken with one touch and counted down there. */
function FromShelf({ engine, onAct }: { engine: string; onAct: Act }) {
  const shelf = useShelf();
  const lines = (shelf.data?.lines ?? []).filter((l) => (l.is.fits ?? []).some((f) => f.engine === engine));
  if (lines.length === 0) return null;
  const take = (l: ShelfLine) => {
    const { label, number, price } = l.is;
    const used = { label, quantity: 1, state: "new" as const, stock: l.id };
    onAct(
      { do: "used", used: { ...used, ...(number && { part_number: number }), ...(price && { price }) } },
      `Taken off the shelf: ${label}`,
    );
  };
  return (
    <Box sx={{ my: 1 }}>
      <Typography variant="h3">On the shelf for her</Typography>
      {lines.map((l) => (
        <Stack key={l.id} direction="row" sx={{ alignItems: "center", gap: 1, py: 0.5 }}>
          <Typography sx={{ mr: "auto" }}>
            {l.is.label}: {l.have > 0 ? `${amount(l.have, l.is.unit)} at ${l.is.where || "the shelf"}` : "none left"}
          </Typography>
          <Button
            variant="outlined"
            disabled={l.have <= 0}
            onClick={() => take(l)}
            sx={pick(false)}
            aria-label={`Take one: ${l.is.label}`}
          >
            Take one
          </Button>
        </Stack>
      ))}
    </Box>
  );
}
