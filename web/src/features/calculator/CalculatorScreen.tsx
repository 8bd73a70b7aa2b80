import { Alert, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { Refused, type Schemas, type Calculator } from "../../api/client";
import { useAnswer, useJob, useCalculators } from "../../api/queries";
import { JobBanner } from "../../ui/job/JobBanner";
import { Cautions } from "../../ui/Cautions";
import { SaveCalculation } from "./SaveCalculation";
import { Loaded } from "../../ui/Loaded";
import { asked, slips, typedIn, useSheet, type Sheet } from "./sheet";
import { CalculatorContext } from "./fieldParts";
import { Fields } from "./Fields";
import { AnswerStrip, AnswerView } from "./AnswerView";
import { WhoDialog } from "../../ui/WhoDialog";
import { systems, useSystem } from "../../ui/unitSystem";
import { unitsOf, type Units } from "../../ui/units";
import { useTitle } from "../../ui/title";
import { belowLines } from "../../ui/stuck";

/** The calculators: found by what one wants to know, answered while one types. */
export function CalculatorScreen() {
  useTitle("Calculators");
  const { name } = useParams();
  const sums = useCalculators();
  return (
    <Loaded query={sums}>
      {(list) => {
        const sum = list.sums.find((s) => s.name === name);
        return sum ? <Workbench key={sum.name} sum={sum} list={list} /> : <Index list={list} />;
      }}
    </Loaded>
  );
}

function Index({ list }: { list: Schemas["CalculatorList"] }) {
  const [wanted, setWanted] = useState("");
  const [params] = useSearchParams();
  const found = list.sums.filter((s) => fits(s, wanted));
  const groups = [...new Set(list.sums.map((s) => s.group))].filter((g) => found.some((s) => s.group === g));
  return (
    <Box component="main" sx={{ maxWidth: 1240, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, alignItems: "center", mb: 2.5 }}>
        <Typography variant="h1" sx={{ flex: 1, minWidth: 220 }}>
          What do you want to know?
        </Typography>
        <TextField
          label="Find"
          placeholder="acid, bucket, thermostat"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
          sx={{ width: { xs: "100%", sm: 280 }, bgcolor: "background.paper" }}
        />
      </Box>
      {found.length === 0 && <Typography>No sum has that word. Try one thing, as in heat, flow or glycol.</Typography>}
      <Box sx={{ columnCount: { xs: 1, md: 2 }, columnGap: 4 }}>
        {groups.map((g) => (
          <Box key={g} component="section" aria-label={g} sx={{ breakInside: "avoid", mb: 3 }}>
            <Typography variant="h2" sx={{ borderBottom: 3, borderColor: "text.primary", pb: 0.5 }}>
              {g}
            </Typography>
            {found
              .filter((s) => s.group === g)
              .map((s) => (
                <Box
                  key={s.name}
                  component={Link}
                  to={{ pathname: `/calculators/${s.name}`, search: params.toString() }}
                  sx={{
                    display: "block",
                    py: 1.25,
                    borderBottom: 1,
                    borderColor: "divider",
                    color: "text.primary",
                    textDecoration: "none",
                    "&:hover": { bgcolor: "background.paper" },
                  }}
                >
                  <Typography sx={{ fontWeight: 700, fontSize: "1.1rem" }}>{s.asks}</Typography>
                  <Typography variant="body2" sx={{ color: "text.secondary" }}>
                    {s.about}
                  </Typography>
                </Box>
              ))}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function fits(s: Calculator, wanted: string): boolean {
  const text = [s.asks, s.about, s.name, s.group, ...s.fields.map((f) => f.label), ...s.results.map((r) => r.label)]
    .join(" ")
    .toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w));
}

/** What is sent follows what is typed by this much, so that a word is not asked for letter by letter. */
const pause = 120;

function usePaused<T>(value: T): T {
  const [now, setNow] = useState(value);
  useEffect(() => {
    const t = setTimeout(() => setNow(value), pause);
    return () => clearTimeout(t);
  }, [value]);
  return useDeferredValue(now);
}

function Workbench({ sum, list }: { sum: Calculator; list: Schemas["CalculatorList"] }) {
  const units = useMemo(() => unitsOf(list.units), [list]);
  const system = useSystem();
  const [params] = useSearchParams();
  const job = params.get("job") ?? "";
  const { sheet, give, choose, fill } = useSheet(sum.name);
  const [keeping, setKeeping] = useState(false);
  useKeptSum(sum, job, params.get("entry"), units, fill);
  const { paused, silent, again, answer, missing, wrong } = useWorked(sum, sheet, units);
  const told = { sum, units, system, missing, wrong: wrong.size > 0, answer };
  return (
    <Box component="main" sx={{ maxWidth: 1240, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2, pb: { xs: 12, md: 4 } }}>
      {job && <JobBanner job={job} />}
      <Stack direction="row" sx={noPrint}>
        <Button component={Link} to={{ pathname: "/calculators", search: job && `job=${job}` }} sx={{ px: 0 }}>
          ← All sums
        </Button>
        <SystemPick />
      </Stack>
      <Typography variant="h1">{sum.asks}</Typography>
      <Typography sx={{ color: "text.secondary" }}>{sum.about}</Typography>
      {silent && (
        <Alert severity="error" sx={{ my: 1 }} action={<Button onClick={() => void again()}>Try again</Button>}>
          The program does not answer; what you typed stays.
        </Alert>
      )}
      <CalculatorContext value={{ sheet, units, system, wrong, understood: answer?.understood ?? {}, choose }}>
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) minmax(0, 1.05fr)" },
            gap: { xs: 2.5, md: 4 },
            mt: 1.5,
            alignItems: "start",
          }}
        >
          <Box component="section" aria-label="What is given" sx={sheetPaper}>
            <Fields fields={sum.fields} given={sheet.given} path="" plain="" onGive={give} />
            <Stack direction="row" sx={{ flexWrap: "wrap", mt: 1, ...noPrint }}>
              <Button onClick={() => fill(typedIn(sum.fields, sum.example, units, system))}>Fill in an example</Button>
              <Button onClick={() => fill({})}>Empty it</Button>
            </Stack>
          </Box>
          <Stack sx={{ gap: 2, position: { md: "sticky" }, top: belowLines }}>
            <Cautions ids={sum.cautions} told={answer?.cautions} />
            <AnswerView {...told} />
            <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", ...noPrint }}>
              <Button variant="contained" disabled={!answer} onClick={() => setKeeping(true)}>
                Save it in a job
              </Button>
              <Button onClick={() => window.print()}>Print</Button>
            </Stack>
          </Stack>
        </Box>
      </CalculatorContext>
      <AnswerStrip {...told} />
      {keeping && (
        <SaveCalculation
          name={sum.name}
          given={paused}
          units={system}
          job={job || undefined}
          onClose={() => setKeeping(false)}
        />
      )}
    </Box>
  );
}

/** The answer to what stands in the sheet: none while something is missing, wrong, or not answered. */
function useWorked(sum: Calculator, sheet: Sheet, units: Units) {
  const system = useSystem();
  const question = useMemo(() => asked(sum.fields, sheet, units, system), [sum, sheet, units, system]);
  const paused = usePaused(question);
  const query = useAnswer(sum.name, paused, system);
  const refused = query.error instanceof Refused ? query.error.problem.errors : undefined;
  const { missing, wrong } = useMemo(() => slips(refused ?? []), [refused]);
  return {
    paused,
    silent: query.isError && !refused,
    again: query.refetch,
    answer: query.isError ? undefined : query.data,
    missing,
    wrong,
  };
}

const noPrint = { "@media print": { display: "none" } };
const sheetPaper = { bgcolor: "background.paper", borderRadius: 1, px: { xs: 1.25, md: 2 }, py: 1, minWidth: 0 };

/** Opens a calculator as it was kept in a job, once. */
function useKeptSum(
  sum: Calculator,
  job: string,
  entry: string | null,
  units: Units,
  fill: (g: ReturnType<typeof typedIn>) => void,
) {
  const page = useJob(job);
  const system = useSystem();
  const kept = entry ? page.data?.sums.find((s) => s.entry_id === entry && s.name === sum.name) : undefined;
  const opened = useRef("");
  useEffect(() => {
    if (!kept || opened.current === kept.entry_id) return;
    opened.current = kept.entry_id;
    fill(typedIn(sum.fields, kept.given, units, system));
  }, [kept, sum, units, system, fill]);
}

/** The units are the whole program's: changed in one place. */
function SystemPick() {
  const system = useSystem();
  const [asking, setAsking] = useState(false);
  const label = systems.find((s) => s.id === system)?.label;
  return (
    <>
      <Button onClick={() => setAsking(true)} sx={{ ml: "auto", color: "text.primary" }}>
        Units: {label}
      </Button>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </>
  );
}
