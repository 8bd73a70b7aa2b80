import { Stack, Typography } from "@mui/material";
import type { JobPage } from "../../api/client";
import { WhoDialog } from "../WhoDialog";
import { useTaps } from "../taps";
import { ChoiceButton } from "../ChoiceButton";

/**
 * Does the shut seacock hold? Asked once the first joint below the waterline is open, until somebody says; one that did
 * not hold stands until it holds, or was renewed.
 */
export function BehindSeacock({ page }: { page: JobPage }) {
  const { keep, asking, setAsking } = useTaps(page.card.id);
  const { behind } = page.state;
  if ((behind !== "ask" && behind !== "passes") || page.closed) return null;
  const known = behind === "passes";
  const say = (item: "dry" | "passes", label: string) => keep({ kind: "strip", strip: { do: "holds", item } }, label);
  return (
    <Stack
      component="section"
      aria-label={known ? "The seacock does not hold" : "Does the shut seacock hold?"}
      direction={{ md: "row" }}
      sx={{
        px: { xs: 1.5, md: 2.5 },
        py: 1,
        columnGap: 3,
        rowGap: 0.75,
        alignItems: { md: "center" },
        bgcolor: "background.paper",
        borderBottom: 2,
      }}
    >
      {known ? (
        <Typography>
          <strong>The seacock does not hold</strong>, though it is shut: nothing below the waterline is opened.
        </Typography>
      ) : (
        <Typography>
          <strong>Does the shut seacock hold?</strong> Some water was to come: what stood in the pipe. Has it stopped?
        </Typography>
      )}
      <Stack direction="row" sx={{ gap: 1 }}>
        <ChoiceButton onClick={() => say("dry", "The seacock holds")}>
          {known ? "It holds now" : "It has stopped"}
        </ChoiceButton>
        {known ? (
          <ChoiceButton
            onClick={() =>
              keep({ kind: "strip", strip: { do: "renewed", item: "seacock" } }, "The seacock was renewed")
            }
          >
            Renewed
          </ChoiceButton>
        ) : (
          <ChoiceButton onClick={() => say("passes", "The seacock does not hold")}>Still coming</ChoiceButton>
        )}
      </Stack>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Stack>
  );
}
