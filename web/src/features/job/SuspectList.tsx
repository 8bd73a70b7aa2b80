import { Box, Button, ButtonBase, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState } from "react";
import type { Answer, Catalogue, JobPage, Schemas } from "../../api/client";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";
import { percent } from "../../ui/stations";
import { moveWords } from "./why";
import { minutes, type Words } from "../../ui/words";

const shown = 7;

/** Under it a finding speaks for not being so. */
const notSeen = 0.5;

interface Props {
  answer: Answer;
  catalogue: Catalogue;
  engine: Pick<JobPage["engine"], "circuit">;
  /** What is known of the engine, seen and not seen. */
  findings: Pick<Schemas["Statement"], "id" | "q" | "point">[];
  words: Words;
}

/** What it takes to be sure of a fault now: the minutes of its quickest sure look, with what must be opened for it. */
export function minutesToSee(fault: string, answer: Pick<Answer, "next_checks">, catalogue: Pick<Catalogue, "checks">) {
  const sure = new Set(catalogue.checks.filter((k) => k.confirms.includes(fault)).map((k) => k.id));
  const looks = answer.next_checks.filter((n) => sure.has(n.check));
  if (looks.length === 0) return undefined;
  return Math.min(...looks.map((n) => n.minutes + n.access_minutes + (n.state_minutes ?? 0)));
}

/** The suspects: how likely, what it takes to be sure, how it looks; under each what raised and what lowered it. */
export function SuspectList({ answer, catalogue, engine, findings, words }: Props) {
  const drawn = useDrawn(engine.circuit);
  const [all, setAll] = useState(false);
  const [open, setOpen] = useState<string | undefined>(answer.suspects[0]?.fault);
  const several = answer.suspects.reduce((sum, s) => sum + s.probability, 0) > 1.05;
  const absent = new Set(findings.filter((f) => f.q < notSeen).map(placed));
  const list = all ? answer.suspects : answer.suspects.slice(0, shown);
  return (
    <Stack component="section" aria-label="Suspects">
      <Typography variant="h2" sx={{ mb: several ? 0 : 1 }}>
        Suspects
      </Typography>
      {several && (
        <Typography variant="body2" sx={{ color: "text.secondary", mb: 1 }}>
          Each by itself: several can be there at once. Minutes: what it takes to be sure.
        </Typography>
      )}
      {list.map((s) => (
        <SuspectRow
          key={s.fault}
          suspect={s}
          {...{ words, absent }}
          drawing={drawn.fault(s.fault)}
          look={minutesToSee(s.fault, answer, catalogue)}
          found={answer.found.includes(s.fault)}
          given={answer.given.includes(s.fault)}
          open={open === s.fault}
          onToggle={() => setOpen(open === s.fault ? undefined : s.fault)}
        />
      ))}
      <Button onClick={() => setAll(!all)} sx={{ alignSelf: "flex-start", mt: 0.5 }}>
        {all ? "Fewer" : `All ${answer.suspects.length}`}
      </Button>
    </Stack>
  );
}

interface RowProps {
  suspect: Schemas["Suspect"];
  words: Words;
  /** Findings that were looked for, or read, and are not so. */
  absent: Set<string>;
  drawing?: Schemas["Drawing"];
  look?: number;
  found: boolean;
  /** A sure look showed it: a fact. */
  given: boolean;
  open: boolean;
  onToggle: () => void;
}

function SuspectRow({ suspect, words, absent, drawing, look, found, given, open, onToggle }: RowProps) {
  const { water } = useTheme();
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider" }}>
      <ButtonBase
        onClick={onToggle}
        aria-expanded={open}
        sx={{ width: "100%", minHeight: 48, textAlign: "left", gap: 1.5, justifyContent: "flex-start", py: 0.75 }}
      >
        <Box sx={{ width: 58, flex: "none", textAlign: "right" }}>
          <Typography sx={{ fontWeight: 750, fontSize: "1.05rem" }}>
            {given ? "seen" : shortPercent(suspect.probability)}
          </Typography>
          {!given && look !== undefined && (
            <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1 }}>
              {minutes(look)}
            </Typography>
          )}
        </Box>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Typography sx={{ fontWeight: found ? 750 : 500, lineHeight: 1.2 }}>
            {words.fault(suspect.fault)}
            {found && " (found)"}
          </Typography>
          <Level share={suspect.probability} colour={found ? water.found : water.suspect} />
        </Box>
        <Drawn of={drawing} width={52} small />
      </ButtonBase>
      {open && (
        <Box sx={{ pl: 1.5, pb: 1.25 }}>
          <Typography variant="body2" sx={{ color: "text.secondary" }}>
            {percent(suspect.prior)} before anything was seen.
          </Typography>
          {!suspect.moved_by.some(telling) && <Typography variant="body2">Nothing seen so far bears on it.</Typography>}
          {suspect.moved_by
            .filter(telling)
            .slice(0, 8)
            .map((m) => (
              <Typography
                variant="body2"
                key={m.kind + m.id}
                sx={{ display: "flex", justifyContent: "space-between", gap: 1 }}
              >
                <span>
                  {moved[m.kind](words, m.id)}
                  {m.point && ` ${words.point(m.point)}`}
                  {absent.has(placed(m)) && ": no"}
                </span>
                <Box
                  component="span"
                  sx={{ whiteSpace: "nowrap", fontWeight: 650, color: m.log_odds > 0 ? water.suspect : water.clear }}
                >
                  {m.log_odds > 0 ? "▲ " : "▽ "}
                  {moveWords(m)}
                </Box>
              </Typography>
            ))}
        </Box>
      )}
    </Box>
  );
}

/** A finding by its operating point: a reading can be there under load and not at idle. */
const placed = (f: { id: string; point?: string }) => `${f.id} ${f.point ?? ""}`;

const moved: Record<Schemas["MoveKind"], (w: Words, id: string) => string> = {
  finding: (w, id) => w.finding(id),
  history: (w, id) => w.history(id),
  "own-rates": () => "The yard's own base rates",
};

const shortPercent = (p: number) => (p < 0.01 ? "< 1" : p > 0.99 ? "> 99" : Math.round(p * 100)) + "\u00a0%";

/** Moves too small to be worth a line are left out. */
const telling = (m: Schemas["Move"]) => Math.abs(m.log_odds) >= 0.15;

/** A share as a level in a tube. */
function Level({ share, colour }: { share: number; colour: string }) {
  return (
    <Box sx={{ height: 8, mt: 0.5, border: 1, borderColor: "text.secondary", borderRadius: 4, overflow: "hidden" }}>
      <Box sx={{ height: "100%", width: `${Math.max(0, share) * 100}%`, bgcolor: colour }} />
    </Box>
  );
}
