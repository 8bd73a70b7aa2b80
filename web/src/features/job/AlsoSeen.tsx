import { Box, Stack, Typography } from "@mui/material";
import type { JobPage, Schemas } from "../../api/client";
import { useInventoryFor } from "../../api/queries";
import { today, useMaintenance } from "../../ui/maintenance/maintenance";
import { WhoDialog } from "../../ui/WhoDialog";
import { lower, when } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** Light wear beside the cause: put right while it is open, else it stays on the due list. */
export function AlsoSeen({ page }: { page: JobPage }) {
  const { say, asking, setAsking } = useMaintenance();
  if (page.also_seen.length === 0) return null;
  const done = (x: Schemas["AlsoSeen"]) =>
    say(page.engine.id, { upkeep: { do: "done", item: x.follow_up, day: today() } }, `Put right: ${lower(x.label)}`);
  return (
    <Box component="section" aria-label="Also seen: put right while it is open">
      <Typography variant="h3">Also seen: put right while it is open</Typography>
      <Typography variant="body2" sx={{ color: "text.secondary", mb: 0.5 }}>
        Common in service and seldom the cause. What is left stands on the due list.
      </Typography>
      {page.also_seen.map((x) => (
        <Stack
          key={x.follow_up}
          direction="row"
          sx={{ gap: 1.5, alignItems: "center", borderTop: 1, borderColor: "divider", py: 0.75 }}
        >
          <Box sx={{ mr: "auto", minWidth: 0 }}>
            <Typography sx={{ fontWeight: 650, lineHeight: 1.25 }}>
              {x.label}
              {x.open && !x.put_right && ": it lies open now"}
            </Typography>
            <Typography variant="body2" sx={{ lineHeight: 1.35 }}>
              {x.do}.
              <Stock engine={page.engine.id} item={x.put_right ? undefined : x.item} />
            </Typography>
            <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.3 }}>
              {x.here ? "" : "In an earlier job, "}
              {x.by}, {when(x.at)}
            </Typography>
          </Box>
          {x.put_right ? (
            <Typography sx={{ fontWeight: 650, whiteSpace: "nowrap" }}>Put right</Typography>
          ) : (
            <ChoiceButton
              onClick={() => done(x)}
              aria-label={`Put right: ${x.label}`}
              sx={{ flex: "none", whiteSpace: "nowrap" }}
            >
              Put right
            </ChoiceButton>
          )}
        </Stack>
      ))}
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Box>
  );
}

/** What of the yard's parts does it on this engine. */
function Stock({ engine, item }: { engine: string; item?: string }) {
  const inventory = useInventoryFor(engine);
  const fits = item ? (inventory.data?.lines ?? []).filter((l) => l.is.upkeep === item) : [];
  if (!item || fits.length === 0) return null;
  return <> In stock: {fits.map((l) => `${lower(l.is.label)} (${l.have})`).join(", ")}.</>;
}
