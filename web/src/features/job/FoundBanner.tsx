import { Box, Button, ButtonBase, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { Link } from "react-router";
import type { Catalogue, JobPage } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { FoundDrawn } from "../../ui/job/FoundDrawn";
import { PutRight } from "../../ui/job/PutRight";
import { percent } from "../../ui/stations";
import { StateShape } from "../../ui/StateShape";
import { lower, when, type Words } from "../../ui/words";
import { BeforeClosing, worthFirst } from "./BeforeClosing";
import { HowMuch } from "./HowMuch";

interface Props {
  page: JobPage;
  words: Words;
  catalogue: Catalogue;
  onStation: (s: string) => void;
  onCheck: (check: string) => void;
  onClose: () => void;
  onKeep: (entry: JobEntry, label: string) => void;
}

/** What was found, what cures it, what of it is put right, and whether that is all. */
export function FoundBanner(p: Props) {
  const { page, words, catalogue, onClose } = p;
  const { water } = useTheme();
  const { found, done, unexplained } = page.diagnosis;
  if (page.closed || (found.length === 0 && page.repaired.length === 0)) return null;
  const seenTo = found.every((f) => page.repaired.some((r) => r.fault === f));
  return (
    <Box
      role="status"
      aria-label="Found"
      sx={{ border: 3, borderColor: water.found, borderRadius: 1, bgcolor: "background.paper", p: 2 }}
    >
      {found.map((id) => (
        <Stack key={id} direction="row" sx={{ gap: 1.25, mb: 1 }}>
          <StateShape state="found" size={30} />
          <Box sx={{ minWidth: 0, flex: 1 }}>
            <Typography variant="h2">Found: {words.fault(id)}</Typography>
            <FoundDrawn page={page} fault={id} words={words} />
            <Typography>{catalogue.faults.find((f) => f.id === id)?.remedy}</Typography>
            <HowMuch {...p} fault={id} />
            <PutRight {...p} fault={id} />
          </Box>
        </Stack>
      ))}
      <Repaired page={page} words={words} />
      {found.length > 0 && (
        <>
          <Hunt page={page} words={words} catalogue={catalogue} onStation={p.onStation} />
          <BeforeClosing page={page} words={words} onCheck={p.onCheck} />
          <Typography sx={{ fontWeight: 650 }}>{advice(page)}</Typography>
        </>
      )}
      {unexplained.length > 0 && (
        <Typography sx={{ mt: 0.5 }}>Not explained by it: {unexplained.map(words.finding).join(", ")}.</Typography>
      )}
      <Stack direction="row" sx={{ gap: 1, mt: 1.5, flexWrap: "wrap" }}>
        <Button variant={seenTo ? "choice" : "contained"} component={Link} to={`/jobs/${page.card.id}/teardown`}>
          Put it right
        </Button>
        <Button variant={seenTo ? "contained" : "choice"} component={Link} to={`/jobs/${page.card.id}/proving`}>
          Prove it
        </Button>
        <Button variant="outlined" onClick={onClose}>
          {done ? "That was it: close the job" : "Close the job all the same"}
        </Button>
      </Stack>
    </Box>
  );
}

/** From this chance of another fault on, a hunt that is done has only run out of looks. */
const likelyStill = 0.2;

/** What to do now, and how sure it is that this was all. */
function advice(page: JobPage) {
  const { done, other_fault } = page.diagnosis;
  const other = `another fault is ${percent(other_fault)} likely`;
  if (tooLittle(page))
    return "What was found is not enough to explain the heat: put it right, and look on before the run.";
  if (done && other_fault >= likelyStill)
    return `No look is left that could show more, and ${other}: put right what was found, and let the run decide.`;
  if (done) return `Does it explain everything? It seems so: ${other}.`;
  const [first, rest] =
    worthFirst(page).length > 0
      ? ["Look there first, then put it right and prove it", "the rest"]
      : ["Put it right and prove it", "it"];
  return `${first}: ${other}, and the run's readings are the cheapest look at ${rest}.`;
}

/** Of nothing that was found the model says that it explains the heat, or may. */
const tooLittle = ({ diagnosis, enough }: JobPage) =>
  diagnosis.found.every((f) => enough.some((e) => e.fault === f && e.verdict === "not-enough"));

/** What was put right before the proof; since then the suspects go by what is read. */
function Repaired({ page, words }: Pick<Props, "page" | "words">) {
  const list = page.repaired.filter((r) => !page.diagnosis.found.includes(r.fault));
  if (list.length === 0) return null;
  return (
    <Box component="section" aria-label="Put right">
      {list.map((r) => (
        <Typography key={r.fault} variant="h2">
          Put right: {words.fault(r.fault)}
        </Typography>
      ))}
      {page.since && (
        <Typography>
          The proof began {when(page.since)}: the suspects go by what was read since. The complaint and what was read
          before it are history.
        </Typography>
      )}
    </Box>
  );
}

/** What a found fault brings with it: one touch leads to the place to look. */
function Hunt({ page, words, catalogue, onStation }: Omit<Props, "onClose" | "onKeep" | "onCheck">) {
  const first = worthFirst(page).map((n) => n.check); // those stand below, with their minutes
  const looked = (fault: string) =>
    catalogue.faults.find((f) => f.id === fault)?.sure.some((s) => first.includes(s.check)) === true;
  const list = page.diagnosis.consequences.filter((c) => c.probability >= worthHunting && !looked(c.fault)).slice(0, 4);
  if (list.length === 0) return null;
  const place = (fault: string) => {
    const stations = catalogue.faults.find((f) => f.id === fault)?.stations ?? [];
    return page.engine.circuit.find((s) => stations.includes(s));
  };
  return (
    <Box component="section" aria-label="It brings others with it" sx={{ mb: 1.5 }}>
      <Typography variant="h3">It brings others with it</Typography>
      {list.map((c) => (
        <ButtonBase
          key={c.fault + c.because}
          onClick={() => {
            const s = place(c.fault);
            if (s) onStation(s);
          }}
          sx={{
            display: "block",
            width: "100%",
            textAlign: "left",
            minHeight: 48,
            borderTop: 1,
            borderColor: "divider",
            py: 0.75,
          }}
        >
          <Typography sx={{ lineHeight: 1.3 }}>
            <strong>
              {words.fault(c.fault)}, {percent(c.probability)}
            </strong>
            : {c.why}. Look at: {lower(words.station(place(c.fault) ?? "all"))}
          </Typography>
        </ButtonBase>
      ))}
    </Box>
  );
}

/** From here on a consequence is worth a line of its own; the next check weighs the others. */
const worthHunting = 0.05;
