import { Box, Typography } from "@mui/material";
import { useAccountNews } from "../../api/queries";
import { Fold } from "../../ui/Fold";
import { when } from "../../ui/words";

/** What happened to one's account, also by others: so that what was not oneself is noticed. */
export function AccountNews() {
  const news = useAccountNews().data?.news ?? [];
  return (
    <Box component="section" aria-label="Your account">
      <Typography variant="h2">Your account</Typography>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        Was something of it not you? Change your passphrase, and tell the manager.
      </Typography>
      <Fold title="What happened to it">
        {news.map((n) => (
          <Typography key={n.at + n.say} sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
            {when(n.at)}: {n.say}
            {n.where && ` (${n.where})`}, by {n.by}
          </Typography>
        ))}
        {news.length === 0 && <Typography>Nothing yet.</Typography>}
      </Fold>
    </Box>
  );
}
