import { Alert, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered } from "../api/answered";
import { endLink, makeLink, type Linked, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { linkedID, useLinks } from "../api/queries";
import { QRCode } from "./QRCode";
import { useTry } from "./refusals";
import { day } from "./words";
import { ChoiceButton } from "./ChoiceButton";

type Links = Schemas["OwnerLinks"];

/** For how long an owner usually reads a report. */
const usual = 30;

/** Links by which the owner reads a report or an engine's page without signing in: made, counted, ended. */
export function OwnerLinks({ of }: { of: Linked }) {
  const links = useLinks(of).data?.links ?? [];
  const what = "job" in of ? "this report" : "what is due on this engine and what was done, no notes or readings,";
  const cache = useQueryClient();
  const [made, setMade] = useState<Links>();
  const { refused, busy, attempt } = useTry();
  const take = (l: Links) => {
    answered(cache, keys.links(linkedID(of)), l);
    setMade(l.made ? l : undefined);
  };
  return (
    <Box component="section" aria-label="The owner's link">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        The owner&apos;s link
      </Typography>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        The owner reads {what} by it, without signing in, for {usual} days{"job" in of && ", and can approve or ask"}.
        Nothing else is reached by it.
      </Typography>
      <ChoiceButton
        disabled={busy}
        sx={{ mt: 1 }}
        onClick={() => void attempt(async () => take(await makeLink(of, usual)))}
      >
        Make a link
      </ChoiceButton>
      {refused && <Alert severity="error">{refused}</Alert>}
      {made?.made && <Made link={new URL(made.made, location.origin).href} qr={made.qr} />}
      {links.map((l) => (
        <Stack
          key={l.id}
          direction="row"
          sx={{ gap: 1, borderTop: 1, borderColor: "divider", py: 0.5, alignItems: "center", mt: 1 }}
        >
          <Typography variant="body2" sx={{ mr: "auto" }}>
            {l.stands ? `Until ${day(l.expires_at)}` : "Ended"}, by {l.made_by}. {opened(l)}
          </Typography>
          {l.stands && (
            <Button disabled={busy} onClick={() => void attempt(async () => take(await endLink(l.id)))}>
              End it
            </Button>
          )}
        </Stack>
      ))}
    </Box>
  );
}

/** How often a link was opened and answered, in words. */
function opened(l: Schemas["OwnerLink"]) {
  if (l.opened === 0) return "Not opened yet.";
  const times = l.opened === 1 ? "Opened once" : `Opened ${l.opened} times`;
  return `${times}${l.answers > 0 ? "; answered, see the notes" : ""}.`;
}

function Made({ link, qr }: { link: string; qr?: Schemas["QR"] }) {
  return (
    <Stack sx={{ gap: 1, mt: 1 }}>
      {qr && <QRCode code={qr} label="The owner's link" size={180} />}
      <TextField
        label="Link, shown now only"
        size="small"
        value={link}
        slotProps={{
          htmlInput: { readOnly: true, onFocus: (e: React.FocusEvent<HTMLInputElement>) => e.target.select() },
        }}
      />
    </Stack>
  );
}
