import { Alert, Box, Button, Dialog, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { session, type Session } from "../../api/session";
import { useTry } from "../../ui/refusals";
import { Secret } from "../../ui/Secret";
import { SignInForm } from "./SignInScreen";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Tile = Schemas["Tile"];

/** Another person takes the device over: whoever gave their passphrase on it of late with a PIN, others with theirs. */
export function Switch({ session: s }: { session: Session }) {
  const [asked, setAsked] = useState<Tile | "other">();
  const others = s.tiles.filter((t) => t.person.id !== s.person?.id);
  return (
    <Box component="section" aria-label="Somebody else uses this device">
      <Typography variant="h2" sx={{ mb: 0.75 }}>
        Somebody else uses this device
      </Typography>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
        {others.map((t) => (
          <ChoiceButton key={t.person.id} onClick={() => setAsked(t)} sx={{ minHeight: 56 }}>
            {t.person.name}
          </ChoiceButton>
        ))}
        <ChoiceButton onClick={() => setAsked("other")} sx={{ minHeight: 56 }}>
          {others.length > 0 ? "Another" : "With their passphrase"}
        </ChoiceButton>
      </Stack>
      {asked && <Take key={asked === "other" ? "" : asked.person.id} who={asked} onClose={() => setAsked(undefined)} />}
    </Box>
  );
}

function Take({ who, onClose }: { who: Tile | "other"; onClose: () => void }) {
  const name = who === "other" ? "" : who.person.name;
  const withPIN = who !== "other" && who.pin;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="take-over-title">
      <DialogTitle id="take-over-title" component="h2">
        {name || "Somebody else"}
      </DialogTitle>
      <DialogContent>
        <Box sx={{ pt: 1 }}>
          {withPIN ? (
            <PIN onPIN={(pin) => session.switchTo({ person_id: who.person.id, pin }).then(onClose)} />
          ) : (
            <SignInForm
              name={name}
              onSignIn={(n, passphrase) => session.signIn({ name: n, passphrase, shared: true }).then(onClose)}
            />
          )}
        </Box>
      </DialogContent>
    </Dialog>
  );
}

function PIN({ onPIN }: { onPIN: (pin: string) => Promise<unknown> }) {
  const [pin, setPIN] = useState("");
  const { refused, busy, attempt } = useTry();
  return (
    <Stack
      component="form"
      sx={{ gap: 2 }}
      onSubmit={(e) => {
        e.preventDefault();
        void attempt(() => onPIN(pin));
      }}
    >
      <Secret label="PIN" value={pin} onChange={setPIN} fills="one-time-code" digits />
      {refused && <Alert severity="error">{refused}</Alert>}
      <Button variant="contained" type="submit" disabled={busy || !pin} sx={{ minHeight: 56 }}>
        Take over
      </Button>
    </Stack>
  );
}
