import { Box, Button, Stack, Typography } from "@mui/material";
import type { Catalogue, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { Drawn } from "../Drawn";
import type { DrawnOf } from "../drawings";
import { minutes, type Words } from "../words";
import { useDo, usePracticeNow } from "./usePractice";

type Check = Schemas["Check"];

/** The last look at a check in this practice, where it was noted less often than it was made; undefined before one. */
export function useLook(check: string, noted: number): Schemas["PracticeStep"] | undefined {
  const looks = usePracticeNow()?.steps.filter((s) => s.do === "look" && s.check === check) ?? [];
  return looks.length > noted ? looks.at(-1) : undefined;
}

/** Before the answers: the look itself, with what it takes. */
export function LookButton({ check, takes }: { check: Check; takes: number }) {
  const { busy, failed, act } = useDo();
  const over = usePracticeNow()?.over;
  return (
    <Stack sx={{ gap: 0.75, p: 1.5, bgcolor: "background.paper", borderTop: 3, borderColor: "text.primary" }}>
      <Button
        variant="contained"
        disabled={busy || over}
        onClick={() => void act({ do: "look", check: check.id })}
        sx={{ minHeight: 56 }}
      >
        {check.engine === "running" ? "Start it and look" : "Look"}: {minutes(takes)}
      </Button>
      {over && <Typography>This practice is over.</Typography>}
      {failed && <Typography role="alert">{failed}</Typography>}
    </Stack>
  );
}

interface SeenProps {
  check: Check;
  catalogue: Catalogue;
  words: Words;
  drawn: DrawnOf;
  look: Schemas["PracticeStep"];
  onKeep: (entry: JobEntry, label: string) => void;
  /** Leads to one's own answers, where they do not stand below. */
  onJudge?: () => void;
}

/** What the look shows, as it looks; one touch notes it, or one's own judgement by the answers below. */
export function WhatIsSeen({ check, catalogue, words, drawn, look, onKeep, onJudge }: SeenProps) {
  const { busy, act } = useDo();
  const present = look.seen.filter((s) => s.present);
  const grouped = new Set(catalogue.groups.flatMap((g) => g.findings));
  const absent = look.seen.filter((s) => !s.present && !grouped.has(s.finding)); // of a question one answer says all
  const stated: Schemas["Stated"][] = look.seen
    .filter((s) => s.present || !grouped.has(s.finding))
    .map((s) => ({ id: s.finding, state: s.present ? "present" : "absent" }));
  return (
    <Box
      component="section"
      aria-label="What you see"
      sx={
        onJudge
          ? { borderTop: 3, borderColor: "text.primary", p: 1.25, bgcolor: "background.paper" }
          : { border: 2, borderColor: "text.primary", borderRadius: 1, p: 1.25 }
      }
    >
      <Typography variant="h3" component="h4" sx={{ mb: 0.75 }}>
        What you see
      </Typography>
      {present.length === 0 && <Typography sx={{ fontWeight: 650 }}>Nothing out of the ordinary.</Typography>}
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 1.25 }}>
        {present.map((s) => (
          <Stack
            key={s.finding}
            direction={onJudge ? "row" : "column"}
            sx={{ width: onJudge ? "100%" : 132, gap: 1, alignItems: onJudge ? "center" : "flex-start" }}
          >
            <Drawn of={drawn.answer(s.finding, "present")} width={onJudge ? 88 : 132} small />
            <Typography sx={{ fontWeight: 650, lineHeight: 1.25 }}>
              {words.finding(s.finding)}
              {s.share ? `, about ${Math.round(s.share * 10) * 10} %` : ""}
            </Typography>
          </Stack>
        ))}
      </Stack>
      {absent.length > 0 && (
        <Typography variant="body2" sx={{ color: "text.secondary", mt: 0.75 }}>
          Not seen: {absent.map((s) => words.finding(s.finding).toLowerCase()).join(", ")}.
        </Typography>
      )}
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mt: 1 }}>
        <Button
          variant="contained"
          onClick={() =>
            onKeep(
              { kind: "check", check: check.id, outcome: "done", minutes: look.minutes, stated },
              `${check.label}: as seen`,
            )
          }
        >
          Note it as seen
        </Button>
        <Button disabled={busy} onClick={() => void act({ do: "look", check: check.id })}>
          Look once more, {minutes(check.minutes)}
        </Button>
        {onJudge && <Button onClick={onJudge}>Judge it myself</Button>}
      </Stack>
    </Box>
  );
}
