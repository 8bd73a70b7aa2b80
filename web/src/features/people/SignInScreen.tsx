import { Alert, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState, useSyncExternalStore, type ReactNode } from "react";
import { link } from "../../api/link";
import { useOutbox } from "../../api/queries";
import { session } from "../../api/session";
import { useTry } from "../../ui/refusals";
import { Secret } from "../../ui/Secret";
import { thisDevice } from "../../ui/thisDevice";
import { useTitle } from "../../ui/title";
import { Waiting } from "../../ui/Waiting";

/** What stands before the yard's record: a name and a passphrase. */
export function SignInScreen() {
  useTitle("Sign in");
  return (
    <Door title="Sign in">
      <Waiting />
      <WaitFor />
      <SignInForm onSignIn={(name, passphrase) => session.signIn({ name, passphrase })} />
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        New here, or the passphrase forgotten? The yard&apos;s manager makes an invitation: scan it, or open its link.
      </Typography>
    </Door>
  );
}

/** Whose taps wait on this device until they are back, and that nobody can sign in without a link. */
function WaitFor() {
  const down = useSyncExternalStore(link.subscribe, link.down);
  const names = [...new Set(useOutbox().waiting.flatMap((l) => l.person?.name ?? []))];
  return (
    <>
      {names.map((name) => (
        <Typography key={name}>
          What {name} tapped waits on {thisDevice()}, and goes once {name} signs in here.
        </Typography>
      ))}
      {down && <Typography>Signing in needs a link.</Typography>}
    </>
  );
}

/** A page without the bar: nothing of the record is behind it. */
export function Door({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="main" sx={{ maxWidth: 460, mx: "auto", px: 2, pt: { xs: 3, md: 10 }, pb: 4, minHeight: "100dvh" }}>
      <Typography sx={{ fontWeight: 800, fontSize: "1.3rem", letterSpacing: "-0.02em" }}>Hevrin</Typography>
      <Stack sx={{ gap: 2, borderTop: 2, borderColor: "text.primary", mt: 1, pt: 2 }}>
        <Typography variant="h1">{title}</Typography>
        {children}
      </Stack>
    </Box>
  );
}

/** Name and passphrase. */
export function SignInForm({
  onSignIn,
  name: known = "",
}: {
  onSignIn: (name: string, passphrase: string) => Promise<unknown>;
  name?: string;
}) {
  const [name, setName] = useState(known);
  const [passphrase, setPassphrase] = useState("");
  const { refused, busy, attempt } = useTry();
  return (
    <Stack
      component="form"
      sx={{ gap: 2 }}
      onSubmit={(e) => {
        e.preventDefault();
        void attempt(() => onSignIn(name, passphrase));
      }}
    >
      <TextField
        label="Name"
        value={name}
        onChange={(e) => setName(e.target.value)}
        autoComplete="username"
        required
        slotProps={{ htmlInput: { maxLength: 200, autoCapitalize: "words", spellCheck: false } }}
      />
      <Secret label="Passphrase" value={passphrase} onChange={setPassphrase} fills="current-password" />
      {refused && <Alert severity="error">{refused}</Alert>}
      <Button variant="contained" type="submit" disabled={busy || !name.trim() || !passphrase} sx={{ minHeight: 56 }}>
        {busy ? "A moment" : "Sign in"}
      </Button>
    </Stack>
  );
}
