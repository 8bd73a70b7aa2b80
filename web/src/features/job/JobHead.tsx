import { Alert, Button } from "@mui/material";
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
import css from "./JobHead.module.css";
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
  return <p>Last together with the yard {together}</p>;
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
    <header className={css.head}>
      <div className={css.row}>
        <div className={css.job}>
          <h1>
            <Link to={`/engines/${engine.id}`}>
              {craft.name}, {engine.name}
            </Link>
          </h1>
          <p className={css.told}>
            {page.kind.label}
            {card.words && `: ${card.words}`} ({day(card.opened_at)}, {card.opened_by})
          </p>
          {page.leak && <p>{leakWords(page, words, litres)}</p>}
          {card.verdict && <p className={css.strong}>Last run: {lower(verdictWords[card.verdict])}</p>}
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
        </div>
        <p className={css.minutes} aria-label="Minutes so far">
          {minutes(card.minutes)}
        </p>
        {!closed && works && (
          <button type="button" onClick={onClose} className={`text ${css.close}`}>
            Close the job
          </button>
        )}
      </div>
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
    </header>
  );
}
