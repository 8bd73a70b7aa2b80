import { Box, Button, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { ReactNode } from "react";
import type { Catalogue, Schemas } from "../../api/client";
import { practice } from "../../api/practice";
import { useCatalogue, useEngine, usePracticeReview } from "../../api/queries";
import { Drawn } from "../../ui/Drawn";
import { useDrawn, type DrawnOf } from "../../ui/drawings";
import { Loaded } from "../../ui/Loaded";
import { useTitle } from "../../ui/title";
import { minutes, wordsOf, type Words } from "../../ui/words";

type Review = Schemas["PracticeReview"];

/** How a practice went: what it was, what it took against others, what to do better, and each step beside the best. */
export function ReviewScreen() {
  const review = usePracticeReview(practice ?? "");
  const catalogue = useCatalogue();
  useTitle("How it went");
  return (
    <Box component="main" sx={{ maxWidth: 980, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Loaded query={catalogue}>
        {(c) => <Loaded query={review}>{(r) => <Told review={r} catalogue={c} />}</Loaded>}
      </Loaded>
    </Box>
  );
}

function Told({ review: r, catalogue }: { review: Review; catalogue: Catalogue }) {
  const words = wordsOf(catalogue);
  const engine = useEngine(r.practice.engine_id).data?.engine;
  const drawn = useDrawn(engine?.circuit);
  return (
    <>
      <Typography variant="h1">{verdict(r)}</Typography>
      <Typography sx={{ mt: 0.5 }}>
        {r.practice.title}, {r.practice.kind_label.toLowerCase()}. Code to share: <strong>{r.practice.code}</strong>
      </Typography>
      {r.after && (
        <Typography sx={{ mt: 1, fontSize: "1.15rem", fontWeight: 650 }}>
          {r.after}
          {r.first_met === false && " The look that this lesson is about came later."}
          {r.missed.length > 0 && ` Not looked at: ${r.missed.map((k) => words.check(k)).join(", ")}.`}
        </Typography>
      )}
      <What {...{ words, drawn }} review={r} />
      <Took review={r} />
      <Part title="What to do better">
        {r.better.length === 0 && <Typography>Nothing: as an old hand would have done it.</Typography>}
        <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
          {r.better.map((b) => (
            <li key={b.label}>
              <Typography sx={{ mb: 0.75 }}>
                <strong>{b.label}.</strong> {b.why}
                {b.minutes ? ` About ${minutes(b.minutes)}.` : ""}
              </Typography>
            </li>
          ))}
        </Box>
      </Part>
      <Part title="Step by step">
        <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {r.turns.map((t, i) => (
            <Turn key={i} turn={t} words={words} />
          ))}
        </Box>
      </Part>
      <Stack direction="row" sx={{ mt: 3, gap: 1.5, flexWrap: "wrap" }}>
        <Button variant="contained" href="/practice">
          Practise again
        </Button>
      </Stack>
    </>
  );
}

function verdict(r: Review): string {
  if (r.dangers.some((d) => d.ends)) return "It ended in danger";
  if (r.cured) return r.signed ? "Cured and proved" : "Cured, but nobody proved it";
  return r.signed ? "Signed as cured, and it was not" : "Not cured";
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mt: 3 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

/** What was hidden, drawn as far gone as it was; what is left of it comes back to the owner. */
function What({ review: r, words, drawn }: { review: Review; words: Words; drawn: DrawnOf }) {
  return (
    <Part title="What it was">
      <Stack direction="row" sx={{ gap: 2, flexWrap: "wrap" }}>
        {r.hidden.map((h) => (
          <Stack
            key={h.fault}
            direction="row"
            sx={{ gap: 1.25, alignItems: "center", bgcolor: "background.paper", p: 1, borderRadius: 1 }}
          >
            <Drawn of={drawn.fault(h.fault, h.share)} width={120} />
            <Box>
              <Typography sx={{ fontWeight: 700 }}>{words.fault(h.fault)}</Typography>
              <Typography>{h.left ? "Still there" : "Put right"}</Typography>
            </Box>
          </Stack>
        ))}
      </Stack>
      {r.theory && (
        <Typography sx={{ mt: 1 }}>The owner blamed another: {words.fault(r.theory).toLowerCase()}.</Typography>
      )}
      {r.mistaken && (
        <Typography sx={{ mt: 0.5 }}>
          And said one thing that was not so: {words.finding(r.mistaken).toLowerCase()}. What matters is looked at
          again.
        </Typography>
      )}
      {r.comeback.length > 0 && (
        <Typography sx={{ mt: 1, fontWeight: 650 }}>
          The next time out the owner calls again:{" "}
          {r.comeback.map((s) => words.finding(s.finding).toLowerCase()).join(", ")}.
        </Typography>
      )}
    </Part>
  );
}

/** Minutes of looks against who knew, the program's order, the order of the water, and one's earlier tries. */
function Took({ review: r }: { review: Review }) {
  const { water } = useTheme();
  const lines: [string, number, boolean][] = [
    ["Your looks", r.looking, true],
    ["Somebody who knew", r.knowing, false],
    ["The program's quickest order", r.quickest, false],
    ["In the order of the water", r.along_the_water, false],
    ...r.earlier
      .slice(0, 3)
      .map((m, i): [string, number, boolean] => [i === 0 ? "Your try before" : "Earlier", m, false]),
  ];
  const most = Math.max(...lines.map(([, m]) => m), 1);
  return (
    <Part title="What it took">
      {lines.map(([label, m, own], i) => (
        <Box key={i} sx={{ mb: 0.75 }}>
          <Typography sx={{ fontWeight: own ? 750 : 450 }}>{label}</Typography>
          <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
            <Box
              sx={{ width: `${(72 * m) / most}%`, minWidth: 3, height: 18, bgcolor: own ? water.clear : water.dry }}
            />
            <Typography sx={{ fontWeight: 700 }}>{minutes(m)}</Typography>
          </Box>
        </Box>
      ))}
      <Typography sx={{ mt: 0.5, color: "text.secondary" }}>
        With repairs, waits and the proof: {minutes(r.practice.minutes)}, {Math.round(r.practice.cost)} in money.
      </Typography>
    </Part>
  );
}

const percent = (p: number) => `${Math.round(p * 100)} %`;

/** One step: what was done and seen; what was likeliest before it, and the look that was best then. */
function Turn({ turn: { step: s, ...t }, words }: { turn: Schemas["PracticeTurn"]; words: Words }) {
  const { water } = useTheme();
  const seen = s.seen.filter((x) => x.present).map((x) => words.finding(x.finding).toLowerCase());
  const best = t.best && t.best !== s.check;
  return (
    <Box
      component="li"
      sx={{
        borderTop: 1,
        borderColor: "divider",
        borderLeft: s.danger ? 6 : 0,
        borderLeftColor: water.found,
        pl: s.danger ? 1 : 0,
        py: 1,
      }}
    >
      <Stack direction="row" sx={{ gap: 1.5 }}>
        <Typography sx={{ minWidth: 64, color: "text.secondary" }}>{minutes(s.at)}</Typography>
        <Box sx={{ minWidth: 0 }}>
          <Typography sx={{ fontWeight: 650 }}>{stepNames[s.do](s, words)}</Typography>
          {s.do === "look" && (
            <Typography>{seen.length > 0 ? `Seen: ${seen.join(", ")}.` : "Nothing out of the ordinary."}</Typography>
          )}
          {t.suspects.length > 0 && (
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              Likeliest then:{" "}
              {t.suspects.map((x) => `${words.fault(x.fault).toLowerCase()} ${percent(x.probability)}`).join(", ")}.
            </Typography>
          )}
          {best && (
            <Typography variant="body2" sx={{ fontWeight: t.lost > 0 ? 650 : 450 }}>
              Best then: {words.check(t.best ?? "")}, {minutes(t.best_minutes ?? 0)}. {t.best_why}
            </Typography>
          )}
        </Box>
      </Stack>
    </Box>
  );
}

type Step = Schemas["PracticeStep"];

/** What each kind of step is called. */
const stepNames: Record<Step["do"], (s: Step, words: Words) => string> = {
  look: (s, words) => words.check(s.check ?? ""),
  repair: (s, words) =>
    s.words ? `${words.fault(s.fault ?? "")}: ${s.words}` : `Put right: ${words.fault(s.fault ?? "")}`,
  proof: () => "Proving run",
  readings: () => "A round of readings",
  wait: (s) => `${minutes(s.minutes)} passed`,
  measure: (s) => `Measured: ${s.words?.toLowerCase()}`,
  order: (s) => `Ordered: ${s.words?.toLowerCase()}${s.fits ? "" : ", and it did not fit"}`,
  hint: (s) => `Hint: ${s.words}`,
  danger: (s) => s.danger?.label ?? "Danger",
  end: () => "The end",
};
