import { Box, Button, Stack, Typography } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { endLink, getStandingLinks } from "../../api/client";
import { keys } from "../../api/keys";
import { useNotice } from "../../ui/notices";
import { day } from "../../ui/words";

/** What can be read from outside, whoever made it: every owner's link that stands, each to be ended. */
export function StandingLinks() {
  const key = keys.links("all");
  const links = useQuery({ queryKey: key, queryFn: getStandingLinks, staleTime: 0 }).data?.links ?? [];
  const cache = useQueryClient();
  const { failed } = useNotice();
  if (links.length === 0) return null;
  return (
    <Box component="section" aria-label="Owners' links" sx={{ mt: 3 }}>
      <Typography variant="h2">Owners&apos; links that stand</Typography>
      {links.map((l) => (
        <Stack
          key={l.id}
          direction="row"
          sx={{ gap: 1, borderTop: 1, borderColor: "divider", py: 0.5, alignItems: "center" }}
        >
          <Typography sx={{ mr: "auto" }}>
            <Link to={l.job_id ? `/jobs/${l.job_id}/report` : `/engines/${l.engine_id}`}>{l.of}</Link>, by {l.made_by},
            until {day(l.expires_at)}
          </Typography>
          <Button
            aria-label={`End the link to ${l.of}`}
            onClick={() => void endLink(l.id).then(() => cache.invalidateQueries({ queryKey: key }), failed)}
          >
            End it
          </Button>
        </Stack>
      ))}
    </Box>
  );
}
