import { Alert, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { endCalendar, makeCalendar } from "../../api/client";
import { keys } from "../../api/keys";
import { useOwnCalendar } from "../../api/queries";
import { useTry } from "../../ui/refusals";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** The address by which a person's own calendar program shows what is due and which orders are expected. */
export function OwnCalendar() {
  const calendar = useOwnCalendar().data;
  const cache = useQueryClient();
  const [link, setLink] = useState("");
  const { refused, busy, attempt } = useTry();
  const take = (what: typeof makeCalendar) =>
    attempt(async () => {
      const now = await what();
      cache.setQueryData(keys.calendar(), { has: now.has });
      setLink(now.link ? new URL(now.link, location.origin).href : "");
    });
  return (
    <Box component="section" aria-label="Your calendar">
      <Typography variant="h2">Your calendar</Typography>
      <Typography variant="body2" sx={{ color: "text.secondary", mb: 1 }}>
        What is due in the yard, and orders that are expected, in your own calendar program: subscribe to an address
        that is yours alone. A phone must trust the yard&apos;s certificate for it.
      </Typography>
      {link && (
        <TextField
          label="Address, shown now only"
          fullWidth
          value={link}
          slotProps={{
            htmlInput: { readOnly: true, onFocus: (e: React.FocusEvent<HTMLInputElement>) => e.target.select() },
          }}
          sx={{ mb: 1 }}
        />
      )}
      {refused && <Alert severity="error">{refused}</Alert>}
      <Stack direction="row" sx={{ gap: 1 }}>
        <ChoiceButton disabled={busy} onClick={() => void take(makeCalendar)}>
          {calendar?.has ? "Make another address" : "Make an address"}
        </ChoiceButton>
        {calendar?.has && (
          <Button disabled={busy} onClick={() => void take(endCalendar)}>
            End it
          </Button>
        )}
      </Stack>
    </Box>
  );
}
