import { Box, Button, Typography } from "@mui/material";
import { Link } from "react-router";
import { useAudit } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { useTitle } from "../../ui/title";

/** What each line of the audit log says, in words. */
const whats: Record<string, string> = {
  "set-up": "Yard set up",
  "signed-in": "Signed in",
  "sign-in-refused": "Sign-in refused",
  switched: "Took a shared device over",
  "pin-refused": "PIN refused",
  "signed-out": "Signed out",
  "device-ended": "Device signed out from elsewhere",
  invited: "Invited",
  accepted: "Invitation taken",
  "invitation-refused": "Invitation refused",
  "person-changed": "Person changed",
  "passphrase-changed": "Passphrase changed",
  "pin-changed": "PIN changed",
  denied: "Not allowed",
  exported: "Handed out",
  "backup-sent": "Copy of the record downloaded",
  "backup-made": "Backup made",
  "going-back": "Going back to a backup",
  "gone-back": "Went back to a backup",
  "brought-in": "Brought in",
  "list-taken-back": "List taken back",
  "passed-over": "Signed, or passed over",
  "calendar-made": "Calendar made",
  "calendar-ended": "Calendar ended",
  "link-made": "Owner's link made",
  "link-ended": "Owner's link ended",
  "link-answered": "Owner answered",
};

/** The audit log: the newest lines first. It is a part of the record, and no line of it is changed or taken back. */
export function AuditScreen() {
  useTitle("Audit log");
  const audit = useAudit();
  return (
    <Box component="main" sx={{ maxWidth: 1000, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Button component={Link} to="/people" sx={{ px: 0 }}>
        ← People
      </Button>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Audit log
      </Typography>
      <Loaded query={audit}>
        {({ lines }) => (
          <Box component="ol" aria-label="Lines" sx={{ listStyle: "none", p: 0, m: 0 }}>
            {lines.map((l) => (
              <Box
                component="li"
                key={l.at + l.what}
                sx={{
                  display: "grid",
                  gridTemplateColumns: { xs: "1fr", md: "190px 260px 1fr" },
                  columnGap: 2,
                  borderTop: 1,
                  borderColor: "divider",
                  py: 0.5,
                }}
              >
                <Typography variant="body2" sx={{ color: "text.secondary" }}>
                  {new Date(l.at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
                </Typography>
                <Typography sx={{ fontWeight: 600 }}>{whats[l.what] ?? l.what}</Typography>
                <Typography sx={{ overflowWrap: "anywhere" }}>
                  {[l.by, l.of && `of ${l.of}`, l.say !== l.of && l.say, l.address && `from ${l.address}`]
                    .filter(Boolean)
                    .join(", ")}
                </Typography>
              </Box>
            ))}
          </Box>
        )}
      </Loaded>
    </Box>
  );
}
