import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState, useSyncExternalStore } from "react";
import { Link } from "react-router";
import { endDevice, endDevices, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { link } from "../../api/link";
import { useDevices, useOutbox, useSession } from "../../api/queries";
import { session } from "../../api/session";
import { Fold } from "../../ui/Fold";
import { Loaded } from "../../ui/Loaded";
import { useNotice } from "../../ui/notices";
import { useTry } from "../../ui/refusals";
import { Secret } from "../../ui/Secret";
import { UnitChoice } from "../../ui/UnitChoice";
import { useTitle } from "../../ui/title";
import { AccountNews } from "./AccountNews";
import { OwnCalendar } from "./OwnCalendar";
import { Reminders } from "./Reminders";
import { Switch } from "./Switch";
import { thisDevice } from "../../ui/thisDevice";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** Who uses this device: somebody else in two taps, passphrase and PIN, the devices, the units. */
export function MeScreen() {
  useTitle("You");
  const s = useSession();
  const down = useSyncExternalStore(link.subscribe, link.down);
  const waits = useOutbox().waiting.length;
  if (!s?.person) return null;
  return (
    <Box component="main" sx={{ maxWidth: 720, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Typography variant="h1" sx={{ overflowWrap: "anywhere" }}>
        {s.person.name}
      </Typography>
      <Typography sx={{ color: "text.secondary" }}>{s.person.role_label}</Typography>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", my: 1.5 }}>
        <Button variant="contained" onClick={() => void session.signOut()} sx={{ minHeight: 52 }}>
          Sign out
        </Button>
        <Button component={Link} to="/people" variant="choice">
          People
        </Button>
        <Button component={Link} to="/device" variant="choice">
          On {thisDevice()}
        </Button>
      </Stack>
      {(down || waits > 0) && (
        <Typography sx={{ mb: 2 }}>
          {waits > 0 && `Signed out, what waits here (${waits}) stays until ${s.person.name} signs in again. `}
          {down && "Signing in needs a link."}
        </Typography>
      )}
      <Stack sx={{ gap: 2.5 }}>
        <Switch session={s} />
        <Devices leads={s.rights.includes("lead")} person={s.person.id} />
        <Box component="section" aria-label="Passphrase and PIN">
          <Typography variant="h2">Passphrase and PIN</Typography>
          <Fold title="Another passphrase">
            <NewPassphrase />
          </Fold>
          <Fold title={s.pin ? "Another PIN" : "A PIN for shared devices"}>
            <NewPIN has={s.pin ?? false} />
          </Fold>
        </Box>
        <AccountNews />
        <Reminders />
        <OwnCalendar />
        <Box component="section" aria-label="Units of this device">
          <Typography variant="h2" sx={{ mb: 0.5 }}>
            Units
          </Typography>
          <UnitChoice />
        </Box>
      </Stack>
    </Box>
  );
}

function Devices({ leads, person }: { leads: boolean; person: string }) {
  const devices = useDevices();
  const cache = useQueryClient();
  const { kept, failed } = useNotice();
  const take = (answer: Promise<Schemas["Devices"]>) =>
    answer.then((d) => {
      cache.setQueryData(keys.devices(), d);
      kept("Signed out");
    }, failed);
  return (
    <Box component="section" aria-label="Devices">
      <Typography variant="h2">{leads ? "Devices of the yard" : "Your devices"}</Typography>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        A phone is lost? Sign it out: it shows nothing more from that moment.
      </Typography>
      <Loaded query={devices}>
        {(d) => (
          <>
            {d.devices.map((x) => (
              <Stack
                key={x.id}
                direction="row"
                sx={{ gap: 1, borderTop: 1, borderColor: "divider", py: 0.75, alignItems: "center", flexWrap: "wrap" }}
              >
                <Box sx={{ flex: "1 1 220px", minWidth: 0 }}>
                  <Typography sx={{ fontWeight: 600 }}>
                    {leads && `${x.person}: `}
                    {x.label}
                    {x.this && ", this one"}
                  </Typography>
                  <Typography variant="body2" sx={{ color: "text.secondary" }}>
                    last used {ago(x.used_at)}, from {x.address}
                  </Typography>
                </Box>
                {!x.this && (
                  <ChoiceButton
                    onClick={() => void take(endDevice(x.id))}
                    aria-label={`Sign out ${x.person}: ${x.label}`}
                  >
                    Sign it out
                  </ChoiceButton>
                )}
              </Stack>
            ))}
            {d.devices.filter((x) => x.person_id === person && !x.this).length > 1 && (
              <Button onClick={() => void take(endDevices(person))}>Sign out all my others</Button>
            )}
          </>
        )}
      </Loaded>
    </Box>
  );
}

/** How long ago something was, in words. */
function ago(at: string) {
  const minutes = Math.round((Date.now() - new Date(at).getTime()) / 60_000);
  if (minutes < 2) return "just now";
  if (minutes < 90) return `${minutes} minutes ago`;
  const hours = Math.round(minutes / 60);
  return hours < 36 ? `${hours} hours ago` : `${Math.round(hours / 24)} days ago`;
}

function NewPassphrase() {
  const [old, setOld] = useState("");
  const [passphrase, setPassphrase] = useState("");
  const { refused, busy, attempt } = useTry();
  const { kept } = useNotice();
  const change = async () => {
    if (!(await attempt(() => session.changePassphrase({ old, passphrase })))) return;
    setOld("");
    setPassphrase("");
    kept("Changed; your other devices are signed out");
  };
  return (
    <Stack
      component="form"
      sx={{ gap: 1.5 }}
      onSubmit={(e) => {
        e.preventDefault();
        void change();
      }}
    >
      <Secret label="Passphrase of now" value={old} onChange={setOld} fills="current-password" />
      <Secret label="New passphrase" value={passphrase} onChange={setPassphrase} fills="new-password" />
      {refused && <Alert severity="error">{refused}</Alert>}
      <Button variant="contained" type="submit" disabled={busy || !old || !passphrase} sx={{ alignSelf: "flex-start" }}>
        Change it
      </Button>
    </Stack>
  );
}

function NewPIN({ has }: { has: boolean }) {
  const [passphrase, setPassphrase] = useState("");
  const [pin, setPIN] = useState("");
  const { refused, busy, attempt } = useTry();
  const { kept } = useNotice();
  const change = async (to: string) => {
    if (!(await attempt(() => session.setPIN({ passphrase, pin: to })))) return;
    setPassphrase("");
    setPIN("");
    kept(to ? "The PIN holds on devices where you gave your passphrase" : "The PIN is gone");
  };
  return (
    <Stack
      component="form"
      sx={{ gap: 1.5 }}
      onSubmit={(e) => {
        e.preventDefault();
        void change(pin);
      }}
    >
      <Secret label="Your passphrase" value={passphrase} onChange={setPassphrase} fills="current-password" />
      <Secret label="PIN" value={pin} onChange={setPIN} fills="new-password" help="6 digits." digits />
      {refused && <Alert severity="error">{refused}</Alert>}
      <Stack direction="row" sx={{ gap: 1 }}>
        <Button variant="contained" type="submit" disabled={busy || !passphrase || !pin}>
          Set it
        </Button>
        {has && (
          <Button disabled={busy || !passphrase} onClick={() => void change("")}>
            Take it away
          </Button>
        )}
      </Stack>
    </Stack>
  );
}
