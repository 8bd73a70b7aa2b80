import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { useSyncExternalStore } from "react";
import { Link } from "react-router";
import type { JobPage, Schemas } from "../../api/client";
import { link } from "../../api/link";
import { useMay } from "../../api/queries";
import { verdictWords } from "../../ui/job/steps";
import { useTogether } from "../../ui/TakeAlong";
import { isUnnamed } from "../../ui/job/unnamed";
import { useQuantity } from "../../ui/quantity";
import { day, lower, minutes, moment, type Words } from "../../ui/words";
import { NameIt } from "./NameIt";

/** What leaks, where and how much of it, in the reader's units. */
function leakWords({ leak }: JobPage, words: Words, litres: ReturnType<typeof useQuantity>) {
  return [
    leak?.water && words.water(leak.water),
    leak?.litres_day !== undefined && `${litres.shown(leak.litres_day)} ${litres.symbol} a day`,
    leak?.where,
  ]
    .filter(Boolean)
    .join(", ");
}

/** Without a link: when this job was last together with the yard, where that is not when the yard was last reached. */
function Together({ craft }: { craft: string }) {
  const down = useSyncExternalStore(link.subscribe, link.down);
  const together = useTogether(craft);
  if (!down || !together || together === moment(link.reached())) return null;
  return <Typography sx={{ lineHeight: 1.3 }}>Last together with the yard {together}</Typography>;
}

/** Whose engine, what was told, how long so far; and how it ended. */
export function JobHead({
  page,
  words,
  sisters,
  onClose,
  onReopen,
}: {
  page: JobPage;
  words: Words;
  /** The craft's other engines, each with its open jobs. */
  sisters: Schemas["EngineCard"][];
  onClose: () => void;
  onReopen: () => void;
}) {
  const { card, craft, engine, closed } = page;
  const litres = useQuantity("L");
  const works = useMay("work");
  return (
    <Box component="header" sx={{ px: { xs: 1.5, lg: 2.5 }, pt: { xs: 0.75, sm: 1.75 } }}>
      <Stack direction="row" sx={{ columnGap: 2, rowGap: 1, alignItems: "center", flexWrap: "nowrap" }}>
        <Box sx={{ mr: "auto", minWidth: 0 }}>
          <Typography variant="h1" sx={{ fontSize: { xs: "1.3rem", lg: "1.6rem" } }}>
            <Box component={Link} to={`/engines/${engine.id}`} sx={{ color: "inherit", textUnderlineOffset: 4 }}>
              {craft.name}, {engine.name}
            </Box>
          </Typography>
          <Typography
            sx={{
              color: "text.secondary",
              lineHeight: 1.3,
              overflowWrap: "anywhere",
              display: { xs: "none", sm: "block" }, // on a phone it stands under Complaint
            }}
          >
            {page.kind.label}
            {card.words && `: ${card.words}`} ({day(card.opened_at)}, {card.opened_by})
          </Typography>
          {page.leak && <Typography sx={{ lineHeight: 1.3 }}>{leakWords(page, words, litres)}</Typography>}
          {card.verdict && (
            <Typography sx={{ fontWeight: 750 }}>Last run: {lower(verdictWords[card.verdict])}</Typography>
          )}
          <Together craft={craft.id} />
          {isUnnamed(craft.name) && <NameIt page={page} />}
          {sisters.map((s) => (
            <Button
              key={s.engine.id}
              component={Link}
              to={s.jobs[0] ? `/jobs/${s.jobs[0].id}` : `/engines/${s.engine.id}`}
              sx={{ color: "text.primary", textDecoration: "underline", textUnderlineOffset: 4, ml: -2, mt: 0.25 }}
            >
              {s.engine.name}
              {s.jobs[0] ? ": its open job" : ": no job open"}
            </Button>
          ))}
        </Box>
        <Typography
          sx={{ fontWeight: 750, fontSize: "1.2rem", whiteSpace: "nowrap", mr: { xs: "auto", sm: 0 } }}
          aria-label="Minutes so far"
        >
          {minutes(card.minutes)}
        </Typography>
        {!closed && works && (
          <Button
            variant="outlined"
            onClick={onClose}
            sx={{ borderColor: "text.primary", color: "text.primary", display: { xs: "none", sm: "inline-flex" } }}
          >
            Close the job
          </Button>
        )}
      </Stack>
      {closed && (
        <Alert
          severity="success"
          icon={false}
          sx={{ mt: 1.5, fontSize: "1rem", alignItems: "center" }}
          action={
            works && (
              <Button color="inherit" onClick={onReopen}>
                Open again
              </Button>
            )
          }
        >
          <strong>
            {closed.faults.map(words.fault).join(closed.one_of_these ? " or " : " and ") || "Closed without a cause"}.
          </strong>{" "}
          {closed.words}
          {closed.watch_hours && ` On watch for ${closed.watch_hours} running hours.`}
          {closed.despite && ` With something open: ${closed.despite}`} ({day(closed.at)}, {closed.by}
          {closed.explains_everything ? ", explains everything" : ", does not explain everything"})
        </Alert>
      )}
    </Box>
  );
}
