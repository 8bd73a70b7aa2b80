import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  TextField,
  Typography,
} from "@mui/material";
import type { Schemas } from "../../api/client";
import { Fold } from "../../ui/Fold";
import { QRCode } from "../../ui/QRCode";

/**
 * An invitation as it is shown, once: to be scanned, or sent as a link; and before it, where needed, the certificate.
 */
export function InvitationDialog({ made, onClose }: { made: Schemas["InvitationMade"]; onClose: () => void }) {
  const link = new URL(made.link, location.origin).href;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="made-title">
      <DialogTitle id="made-title" component="h2">
        For {made.person.name}
      </DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 2 }}>
          <Box sx={{ display: "grid", gap: 2, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" } }}>
            {made.authority && <Authority given={made.authority} />}
            <Box>
              <Typography sx={{ fontWeight: 700, mb: 1 }}>
                {made.authority ? "2. " : ""}Scan this with the phone&apos;s camera
              </Typography>
              <QRCode code={made.qr} label={`Invitation for ${made.person.name}`} />
            </Box>
          </Box>
          {made.authority && <TrustSteps given={made.authority} />}
          <Typography>Or send the link. It opens once, within 24 hours; it is shown here only now.</Typography>
          <TextField
            label="Link"
            value={link}
            slotProps={{
              htmlInput: { readOnly: true, onFocus: (e: React.FocusEvent<HTMLInputElement>) => e.target.select() },
            }}
          />
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={() => void navigator.clipboard.writeText(link)}>Copy the link</Button>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** How each kind of phone is brought to trust the yard's own certificate. */
const steps: [string, string[]][] = [
  [
    "iPhone, iPad",
    [
      "Scan the first code and allow the profile to be loaded.",
      "Settings, General, VPN & Device Management: install “Hevrin yard”.",
      "Settings, General, About, Certificate Trust Settings: switch it on.",
    ],
  ],
  [
    "Android",
    [
      "Scan the first code and save the file.",
      "Settings, search for “CA certificate”, choose the file. Android warns: compare the fingerprint below.",
    ],
  ],
  ["Windows", ["Open the file, Install certificate, this user, into “Trusted Root Certification Authorities”."]],
  ["Mac", ["Open the file with Keychain Access, then set it to “Always Trust” for SSL."]],
  ["Linux", ["Browser settings, Certificates, Authorities: import the file for web sites."]],
];

function Authority({ given }: { given: Schemas["AuthorityGiven"] }) {
  return (
    <Box component="section" aria-label="Certificate">
      <Typography sx={{ fontWeight: 700, mb: 1 }}>1. Once on each device: the yard&apos;s certificate</Typography>
      <QRCode code={given.qr} label="The yard's certificate" />
      <Button href={given.link} download sx={{ px: 0 }}>
        Or load it here
      </Button>
    </Box>
  );
}

function TrustSteps({ given }: { given: Schemas["AuthorityGiven"] }) {
  return (
    <Fold title="Step by step, by kind of device">
      {steps.map(([system, list]) => (
        <Box key={system} sx={{ mb: 1 }}>
          <Typography sx={{ fontWeight: 650 }}>{system}</Typography>
          {list.map((s) => (
            <Typography key={s} variant="body2">
              {s}
            </Typography>
          ))}
        </Box>
      ))}
      <Typography variant="body2">
        It speaks for this yard&apos;s addresses alone. Its fingerprint (SHA-256) is the same on every device:
      </Typography>
      <Typography variant="body2" sx={{ fontFamily: "monospace", overflowWrap: "anywhere" }}>
        {given.fingerprint}
      </Typography>
    </Fold>
  );
}
