import { Alert, Box, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { getPushing, subscribe, unsubscribe } from "../../api/client";
import { keys } from "../../api/keys";
import { usePushing } from "../../api/queries";
import { saysNo, useTry } from "../../ui/refusals";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** Why this browser cannot be reminded; nothing where it can. */
function whyNot(): string {
  if (!("PushManager" in window) || !("Notification" in window) || !("serviceWorker" in navigator))
    return "This browser takes no reminders here. On some phones it does once Hevrin was put on the home screen.";
  if (Notification.permission === "denied")
    return "Notifications of Hevrin are turned off in this browser's settings: allow them there first.";
  return "";
}

/** Asks the browser for a way to be reminded, and tells the program. */
async function turnOn(key: string): Promise<string> {
  if ((await Notification.requestPermission()) !== "granted") return "The browser was not allowed to remind you.";
  const worker = await navigator.serviceWorker.getRegistration();
  if (!worker) return "This device does not trust the yard's certificate yet: put it on first, then reload the page.";
  const made = await worker.pushManager
    .subscribe({ userVisibleOnly: true, applicationServerKey: key })
    .catch(() => undefined);
  const { endpoint, keys: own } = made?.toJSON() ?? {};
  if (!endpoint || !own?.p256dh || !own.auth)
    return "The browser does not reach the service by which it is reminded: that needs the internet, here too.";
  await subscribe({ endpoint, p256dh: own.p256dh, auth: own.auth });
  return "";
}

/** Reminders on this device: of what comes due, of orders, of what happens to one's account. */
export function Reminders() {
  const pushing = usePushing().data;
  const cache = useQueryClient();
  const [say, setSay] = useState("");
  const { refused, busy, attempt } = useTry();
  if (!pushing?.key) return null;
  const { key, on, failed } = pushing;
  const turn = () =>
    attempt(async () => {
      if (on) await unsubscribe();
      else setSay(await turnOn(key).catch(saysNo));
      cache.setQueryData(keys.pushing(), await getPushing());
    });
  const cannot = on ? "" : whyNot();
  return (
    <Box component="section" aria-label="Reminders on this device">
      <Typography variant="h2">Reminders on this device</Typography>
      <Typography variant="body2" sx={{ color: "text.secondary", mb: 1 }}>
        In the morning what comes due, two weeks ahead and on the day; orders that are expected or late; and at once
        what happens to your account. They go by the browser maker&apos;s service, which cannot read them: the
        yard&apos;s machine and this device need the internet for it.
      </Typography>
      {failed && <Alert severity="warning">The last one did not go: {failed}.</Alert>}
      {(say || refused || cannot) && <Alert severity="info">{say || refused || cannot}</Alert>}
      <ChoiceButton sx={{ mt: 1 }} disabled={busy || !!cannot} onClick={() => void turn()}>
        {on ? "Remind me here no more" : "Remind me here"}
      </ChoiceButton>
    </Box>
  );
}
