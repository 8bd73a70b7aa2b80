import { newID } from "../../api/ids";
import { Alert, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { useSupplier } from "../../api/queries";
import { Attention } from "../../ui/Attention";
import { amount, numberOf, type OnShelf, type InventoryLine } from "../../ui/inventory";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** An order of the supplier: what went wrong before is shown first, what was superseded leads to its new number. */
export function Ordering({
  line,
  want,
  onAct,
  onDone,
}: {
  line: InventoryLine;
  want: number;
  onAct: OnShelf;
  onDone: () => void;
}) {
  const [find, setFind] = useState(line.is.number || line.is.label.split(" ")[0] || "");
  const [quantity, setQuantity] = useState(String(Math.max(1, Math.ceil(want))));
  const list = useSupplier(find);
  const n = numberOf(quantity);
  const order = (number: string) => {
    if (n === undefined || n <= 0) return;
    void onAct(
      { do: "order", part: line.id, order: newID(), number, quantity: n },
      `Ordered: ${amount(n)} of ${number}`,
    ).then((done) => done && onDone());
  };
  return (
    <Stack component="section" aria-label={`Order ${line.is.label}`} sx={{ gap: 1, mt: 1 }}>
      {line.wrong.map((w, i) => (
        <Attention key={i}>{`Ordered wrong before${w.number ? ` (${w.number})` : ""}: ${w.words}`}</Attention>
      ))}
      <Stack direction="row" sx={{ gap: 1 }}>
        <TextField
          label="How many"
          value={quantity}
          onChange={(e) => setQuantity(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ width: 110, bgcolor: "background.paper" }}
        />
        <TextField
          label="At the supplier: number or words"
          value={find}
          onChange={(e) => setFind(e.target.value)}
          sx={{ flex: 1, bgcolor: "background.paper" }}
        />
      </Stack>
      {list.data?.items.length === 0 && <Alert severity="info">The supplier has nothing like that.</Alert>}
      {list.data?.items.slice(0, 6).map((i) => (
        <Stack
          key={i.number}
          direction="row"
          sx={{ gap: 1.5, alignItems: "center", borderTop: 1, borderColor: "divider", pt: 0.75 }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography sx={{ fontWeight: 650, lineHeight: 1.25 }}>
              {i.number}, {i.label}
            </Typography>
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              {i.replaced_by && `Superseded by ${i.replaced_by}`}
              {!i.replaced_by && `${i.price.toFixed(2)} each, `}
              {!i.replaced_by && i.stock >= (n ?? 1) && `in stock, ${i.lead_days} days`}
              {!i.replaced_by && i.stock < (n ?? 1) && `${i.stock} in stock, all in ${i.made_days} days`}
            </Typography>
          </Box>
          {i.replaced_by ? (
            <Button onClick={() => setFind(i.replaced_by)}>Look at {i.replaced_by}</Button>
          ) : (
            <Button
              variant="contained"
              disabled={n === undefined || n <= 0}
              onClick={() => order(i.number)}
              aria-label={`Order ${i.number}`}
            >
              Order
            </Button>
          )}
        </Stack>
      ))}
      <ChoiceButton onClick={onDone} sx={{ alignSelf: "flex-start" }}>
        Not now
      </ChoiceButton>
    </Stack>
  );
}
