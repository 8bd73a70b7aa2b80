import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Attention } from "../../ui/Attention";
import { Stepper } from "../../ui/Stepper";
import { day } from "../../ui/words";
import { Ordering } from "./Ordering";
import { PartForm } from "./PartForm";
import { amount, fitsSaid, type OnShelf, type InventoryLine } from "../../ui/inventory";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Open = "count" | "order" | "wrong" | "form";

/** A part in stock: how many lie where, what is coming, what it fits; counted, ordered, received. */
export function InventoryRow(p: {
  line: InventoryLine;
  need?: Schemas["InventoryNeed"];
  names: Pick<Schemas["Inventory"], "engines" | "pumps">;
  onAct: OnShelf;
}) {
  const { line, need, onAct } = p;
  const { is } = line;
  const [open, setOpen] = useState<Open>();
  const turn = (o: Open) => setOpen(open === o ? undefined : o);
  const close = () => setOpen(undefined);
  return (
    <Box
      component="article"
      aria-label={is.label}
      sx={{
        borderTop: 1,
        borderColor: "divider",
        py: 1.25,
        display: "grid",
        columnGap: 2,
        gridTemplateColumns: "76px minmax(0, 1fr)",
      }}
    >
      <Lying line={line} />
      <Box sx={{ minWidth: 0 }}>
        <About line={line} need={need} names={p.names} warned={open !== "order"} />
        {line.orders.map((o) => (
          <Coming key={o.id} line={line} order={o} onAct={onAct} />
        ))}
        <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap", mt: 0.75 }}>
          <ChoiceButton onClick={() => turn("count")} data-on={open === "count"}>
            Count
          </ChoiceButton>
          <ChoiceButton onClick={() => turn("order")} data-on={open === "order"}>
            Order
          </ChoiceButton>
          <ChoiceButton onClick={() => turn("wrong")} data-on={open === "wrong"}>
            It was the wrong one
          </ChoiceButton>
          <Button onClick={() => turn("form")} sx={{ color: "text.secondary" }}>
            Change
          </Button>
        </Stack>
        {open === "count" && <Counted line={line} onAct={onAct} onDone={close} />}
        {open === "order" && <Ordering line={line} want={need?.quantity ?? 1} onAct={onAct} onDone={close} />}
        {open === "wrong" && <WrongOne line={line} onAct={onAct} onDone={close} />}
        {open === "form" && <PartForm line={line} onAct={onAct} onClose={close} />}
      </Box>
    </Box>
  );
}

/** How many lie there, large; what is coming, or the least to have. */
function Lying({ line: { is, have, coming } }: { line: InventoryLine }) {
  const least = is.minimum ?? 0;
  return (
    <Box sx={{ textAlign: "right" }}>
      <Typography
        sx={{
          fontWeight: 800,
          fontSize: "1.7rem",
          lineHeight: 1.1,
          color: have < least ? "error.main" : "text.primary",
        }}
      >
        {amount(have, is.unit)}
      </Typography>
      <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.2 }}>
        {coming > 0 ? `${amount(coming)} coming` : least > 0 ? `least ${amount(least)}` : ""}
      </Typography>
    </Box>
  );
}

function About(p: {
  line: InventoryLine;
  need?: Schemas["InventoryNeed"];
  names: Pick<Schemas["Inventory"], "engines" | "pumps">;
  warned: boolean;
}) {
  const { is, wrong } = p.line;
  const facts = [is.number, is.where && `lies at ${is.where}`, is.price && `${is.price.toFixed(2)} each`];
  return (
    <>
      <Typography sx={{ fontWeight: 700, fontSize: "1.08rem", lineHeight: 1.25 }}>{is.label}</Typography>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        {facts.filter(Boolean).join(", ")}
      </Typography>
      {fitsSaid(is.fits ?? [], p.names).map((say) => (
        <Typography key={say} variant="body2" sx={{ mt: 0.25 }}>
          {say}
        </Typography>
      ))}
      {p.need && (
        <Typography sx={{ fontWeight: 700 }}>
          To order {amount(p.need.quantity, is.unit)}: {p.need.reasons.join("; ")}.
        </Typography>
      )}
      {p.warned && wrong.length > 0 && (
        <Attention>{`Ordered wrong before: ${wrong[wrong.length - 1]?.words ?? ""}`}</Attention>
      )}
    </>
  );
}

function Coming({ line, order: o, onAct }: { line: InventoryLine; order: Schemas["PartOrder"]; onAct: OnShelf }) {
  return (
    <Stack direction="row" sx={{ gap: 1, alignItems: "center", flexWrap: "wrap", mt: 0.5 }}>
      <Typography sx={{ mr: "auto" }}>
        {amount(o.left)} of {o.number || "an order"} on the way, by {day(o.due)} ({o.by})
      </Typography>
      <Button
        variant="contained"
        onClick={() =>
          void onAct(
            { do: "receive", part: line.id, order: o.id, quantity: o.left },
            `Received: ${amount(o.left)} of ${line.is.label}`,
          )
        }
      >
        They are here
      </Button>
      <Button onClick={() => void onAct({ do: "cancel", part: line.id, order: o.id }, "Order cancelled")}>
        Cancelled
      </Button>
    </Stack>
  );
}

function Counted({ line, onAct, onDone }: { line: InventoryLine; onAct: OnShelf; onDone: () => void }) {
  const [n, setN] = useState(line.have);
  return (
    <Stack sx={{ gap: 1, mt: 1, maxWidth: 420 }}>
      <Stepper label="Counted" value={n} unit={line.is.unit ?? ""} most={100000} onChange={setN} />
      <Button
        variant="contained"
        onClick={() => {
          void onAct({ do: "count", part: line.id, quantity: n }, `Counted: ${amount(n)} of ${line.is.label}`).then(
            (done) => done && onDone(),
          );
        }}
      >
        So many lie there
      </Button>
    </Stack>
  );
}

function WrongOne({ line, onAct, onDone }: { line: InventoryLine; onAct: OnShelf; onDone: () => void }) {
  const [words, setWords] = useState("");
  return (
    <Stack direction="row" sx={{ gap: 1, mt: 1, flexWrap: "wrap" }}>
      <TextField
        label="What was wrong with it"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        helperText="Shown at the next order. One is taken off the count."
        sx={{ flex: 1, minWidth: 200, bgcolor: "background.paper" }}
      />
      <Button
        disabled={!words.trim()}
        onClick={() => {
          void onAct(
            {
              do: "wrong",
              part: line.id,
              words: words.trim(),
              quantity: Math.min(1, Math.max(0, line.have)),
              ...(line.is.number && { number: line.is.number }),
            },
            "Noted: the wrong one",
          ).then((done) => done && onDone());
        }}
      >
        Note it
      </Button>
    </Stack>
  );
}
