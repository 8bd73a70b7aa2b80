import { Alert, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { setUp, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useSetUp } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { useTry } from "../../ui/refusals";
import { Secret } from "../../ui/Secret";
import { useWriter } from "../../ui/Shell";
import { useTitle } from "../../ui/title";

/** On the yard's machine, while nobody else can reach it: who leads the yard, and under which names phones find it. */
export function SetUpScreen() {
  useTitle("Let phones in");
  const state = useSetUp();
  return (
    <Box component="main" sx={{ maxWidth: 640, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Button component={Link} to="/" sx={{ px: 0 }}>
        ← Yard
      </Button>
      <Typography variant="h1">Let phones in</Typography>
      <Typography sx={{ color: "text.secondary", mb: 2 }}>
        Until now Hevrin answers this machine alone. Once it is set up, the yard&apos;s phones reach it over the wifi,
        each person under their own name, and nobody else gets in.
      </Typography>
      <Loaded query={state}>{(s) => (s.ready ? <Ready state={s} /> : <Form state={s} />)}</Loaded>
    </Box>
  );
}

function Ready({ state }: { state: Schemas["SetUpState"] }) {
  return (
    <Stack sx={{ gap: 1.5 }}>
      <Alert severity="success">It is set up, for {state.hosts.join(", ")}.</Alert>
      <Typography>Stop Hevrin on this machine, and start it so:</Typography>
      <Box component="pre" sx={{ m: 0, p: 1.5, bgcolor: "background.paper", overflow: "auto", fontSize: "1rem" }}>
        {state.command}
      </Box>
      <Typography>
        Then sign in at its secure address, and invite the others under People: each scans a code with their phone.
      </Typography>
    </Stack>
  );
}

function Form({ state }: { state: Schemas["SetUpState"] }) {
  const [manager, setManager] = useState(useWriter());
  const [passphrase, setPassphrase] = useState("");
  const [hosts, setHosts] = useState(state.hosts.join("\n"));
  const { refused, busy, attempt } = useTry();
  const cache = useQueryClient();
  const list = hosts.split(/[\s,]+/).filter(Boolean);
  return (
    <Stack
      component="form"
      sx={{ gap: 2 }}
      onSubmit={(e) => {
        e.preventDefault();
        void attempt(async () => {
          cache.setQueryData(keys.setUp(), await setUp({ manager: manager.trim(), passphrase, hosts: list }));
        });
      }}
    >
      <TextField
        label="Name of the manager"
        value={manager}
        onChange={(e) => setManager(e.target.value)}
        required
        autoComplete="username"
        helperText="Whoever invites the others. It stands beside what they note."
        slotProps={{ htmlInput: { maxLength: 80 } }}
      />
      <Secret
        label="Passphrase"
        value={passphrase}
        onChange={setPassphrase}
        fills="new-password"
        help="12 letters or more: three or four words that have nothing to do with each other."
      />
      <TextField
        label="Names and addresses of this machine"
        value={hosts}
        onChange={(e) => setHosts(e.target.value)}
        required
        multiline
        minRows={2}
        helperText="Under which phones reach it on the wifi, one a line; the first stands in invitations."
      />
      {refused && <Alert severity="error">{refused}</Alert>}
      <Button
        variant="contained"
        type="submit"
        disabled={busy || !manager.trim() || !passphrase || list.length === 0}
        sx={{ minHeight: 56 }}
      >
        {busy ? "A moment" : "Set it up"}
      </Button>
    </Stack>
  );
}
