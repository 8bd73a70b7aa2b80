import { Alert, Button, Stack, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { getInvitation } from "../../api/client";
import { session } from "../../api/session";
import { saysNo, useTry } from "../../ui/refusals";
import { Secret } from "../../ui/Secret";
import { useTitle } from "../../ui/title";
import { Door } from "./SignInScreen";

/** An invitation is taken: its person chooses a passphrase, and is in. */
export function JoinScreen() {
  useTitle("Invitation");
  const token = useLocation().hash.slice(1);
  const invitation = useQuery({
    queryKey: ["invitation", token],
    queryFn: () => getInvitation(token),
    retry: false,
    enabled: token !== "",
  });
  if (token === "" || invitation.error)
    return (
      <Door title="Invitation">
        <Alert severity="error">
          {token === "" ? "There is no invitation in this address: scan it again." : saysNo(invitation.error)}
        </Alert>
        <Button component={Link} to="/" variant="choice">
          Sign in instead
        </Button>
      </Door>
    );
  return (
    <Door title={invitation.data ? `Welcome, ${invitation.data.name}` : "Invitation"}>
      {invitation.data && <Choose token={token} role={invitation.data.role_label} />}
    </Door>
  );
}

function Choose({ token, role }: { token: string; role: string }) {
  const [passphrase, setPassphrase] = useState("");
  const { refused, busy, attempt } = useTry();
  const go = useNavigate();
  const join = async () => {
    if (await attempt(() => session.accept(token, { passphrase }))) await go("/", { replace: true });
  };
  return (
    <Stack
      component="form"
      sx={{ gap: 2 }}
      onSubmit={(e) => {
        e.preventDefault();
        void join();
      }}
    >
      <Typography>
        You are the yard&apos;s {role.toLowerCase()}. Choose a passphrase for this and later devices.
      </Typography>
      <Secret
        label="New passphrase"
        value={passphrase}
        onChange={setPassphrase}
        fills="new-password"
        help="12 letters or more: three or four words that have nothing to do with each other."
      />
      {refused && <Alert severity="error">{refused}</Alert>}
      <Button variant="contained" type="submit" disabled={busy || !passphrase} sx={{ minHeight: 56 }}>
        {busy ? "A moment" : "Come in"}
      </Button>
    </Stack>
  );
}
