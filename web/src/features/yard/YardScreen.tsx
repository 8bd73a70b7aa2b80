import { Box, Button, FormControl, InputLabel, OutlinedInput, Stack, Typography } from "@mui/material";
import { lazy, Suspense, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useCatalogue, useMay, useRecordHealth, useSession, useYard } from "../../api/queries";
import { Attention } from "../../ui/Attention";
import { Loaded } from "../../ui/Loaded";
import { recordTold } from "../../ui/recordTold";
import { lower, wordsOf, type Words } from "../../ui/words";
import { HotEngineNow } from "./HotEngineNow";
import { useBegin } from "../../ui/practice/begin";
import { JobLine } from "../../ui/job/JobLine";
import { useTitle } from "../../ui/title";
import { thisDevice } from "../../ui/thisDevice";

// what opens by a touch is fetched with it: the first page is light
const CraftForm = lazy(() => import("./CraftForm").then((m) => ({ default: m.CraftForm })));
const EngineForm = lazy(() => import("../../ui/engine/EngineForm").then((m) => ({ default: m.EngineForm })));
const StartJob = lazy(() => import("../../ui/job/StartJob").then((m) => ({ default: m.StartJob })));
const ImportJob = lazy(() => import("./ImportJob").then((m) => ({ default: m.ImportJob })));

type CraftCard = Schemas["CraftCard"];

/** The yard: every craft with its engines; what is open comes first. */
export function Yard() {
  const yard = useYard();
  const catalogue = useCatalogue();
  const [find, setFind] = useState("");
  const [adding, setAdding] = useState(false);
  const [taking, setTaking] = useState(false);
  const inYard = useSession()?.mode === "yard";
  const keeps = useMay("keep");
  const works = useMay("work");
  useTitle("Yard");
  return (
    <Box component="main" sx={{ maxWidth: 1080, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Loaded query={catalogue}>
        {(c) => (
          <Loaded query={yard}>
            {({ craft }) => (
              <>
                <Stack direction="row" sx={{ gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 2 }}>
                  <Typography variant="h1" sx={{ mr: "auto" }}>
                    {openWords(craft)}
                  </Typography>
                  {craft.length > 4 && <FindCraft find={find} onFind={setFind} />}
                  <Button
                    variant="outlined"
                    onClick={() => setAdding(true)}
                    sx={{ borderColor: "text.primary", color: "text.primary" }}
                  >
                    Add a craft
                  </Button>
                </Stack>
                <Reminder />
                {works && <HotEngineNow catalogue={c} />}
                {craft.length === 0 && <Welcome />}
                {sorted(craft, find)
                  .filter((x) => !x.craft.archived)
                  .map((x) => (
                    <CraftRow key={x.craft.id} card={x} words={wordsOf(c)} />
                  ))}
                <Archived craft={craft.filter((x) => x.craft.archived)} words={wordsOf(c)} />
              </>
            )}
          </Loaded>
        )}
      </Loaded>
      <Stack direction="row" sx={{ gap: 2, flexWrap: "wrap", borderTop: 2, borderColor: "text.primary", pt: 1, mt: 1 }}>
        <Button component={Link} to="/practice" sx={quiet}>
          Practice
        </Button>
        <Button component={Link} to="/methods" sx={quiet}>
          Tasks and methods
        </Button>
        {keeps && (
          <>
            <Button onClick={() => setTaking(true)} sx={quiet}>
              Import a job
            </Button>
            <Button component={Link} to="/lists" sx={quiet}>
              Bring a list in
            </Button>
            <Button component={Link} to="/record" sx={quiet}>
              The record and its backups
            </Button>
          </>
        )}
        {inYard && (
          <Button component={Link} to="/labels" sx={quiet}>
            Labels
          </Button>
        )}
        <Button component={Link} to="/device" sx={quiet}>
          On {thisDevice()}
        </Button>
        <Button component={Link} to={inYard ? "/people" : "/setup"} sx={quiet}>
          {inYard ? "People" : "Let phones in"}
        </Button>
      </Stack>
      <Suspense>
        {adding && <CraftForm onClose={() => setAdding(false)} />}
        {taking && <ImportJob onClose={() => setTaking(false)} />}
      </Suspense>
    </Box>
  );
}

/** What whoever looks after the record must see to: trouble with its place, its clock, or no good backup of late. */
function Reminder() {
  const record = useRecordHealth().data?.record;
  const say = record && recordTold(record)[0];
  if (!say) return null;
  return (
    <Box component="section" aria-label="Reminder" sx={{ mb: 2 }}>
      <Attention>{say}</Attention>
      <Button component={Link} to="/record" sx={quiet}>
        See to it
      </Button>
    </Box>
  );
}

/** Craft that are not looked after any more, folded away; their record stays. */
function Archived({ craft, words }: { craft: CraftCard[]; words: Words }) {
  const [open, setOpen] = useState(false);
  if (craft.length === 0) return null;
  return (
    <Box component="section" aria-label="Archive" sx={{ borderTop: 2, borderColor: "text.primary" }}>
      <Button aria-expanded={open} onClick={() => setOpen(!open)} sx={quiet}>
        Archive: {craft.length}
      </Button>
      {open && craft.map((x) => <CraftRow key={x.craft.id} card={x} words={words} />)}
    </Box>
  );
}

/** The empty program says what it is for, and where to look round. */
function Welcome() {
  const { begin, busy, failed } = useBegin();
  return (
    <Box component="section" aria-label="Begin">
      <Typography sx={{ maxWidth: 620 }}>
        Nothing is on record yet. Begin with the hot engine above, or add a craft, then its engine; or{" "}
        <Box component={Link} to="/lists" sx={{ color: "inherit", fontWeight: 650 }}>
          bring in the list
        </Box>{" "}
        that the yard has kept so far. To look round first, stop the program and start <code>hevrin demo</code>: an
        invented yard with its jobs, in a folder of its own.
      </Typography>
      <Button variant="contained" disabled={busy} onClick={() => begin({ lesson: 1 })} sx={{ mt: 2, display: "block" }}>
        Learn it in five minutes
      </Button>
      <Typography sx={{ maxWidth: 620, mt: 0.5, color: "text.secondary" }}>
        {failed ?? "The first lesson of practice, on a made-up engine. Nothing of it goes on record."}
      </Typography>
    </Box>
  );
}

const quiet = { color: "text.primary", textDecoration: "underline", textUnderlineOffset: 4, px: 0 };

const jobsOf = (c: CraftCard) => c.engines.flatMap((e) => e.jobs);

function openWords(craft: CraftCard[]) {
  const n = craft.flatMap(jobsOf).length;
  return n === 0 ? "No job open" : n === 1 ? "One job open" : `${n} jobs open`;
}

function sorted(craft: CraftCard[], find: string) {
  const wanted = find.trim().toLowerCase();
  const newest = (c: CraftCard) => jobsOf(c).reduce((latest, j) => (j.opened_at > latest ? j.opened_at : latest), "");
  return craft
    .filter((c) => `${c.craft.name} ${c.craft.owner} ${c.craft.berth}`.toLowerCase().includes(wanted))
    .sort((a, b) => newest(b).localeCompare(newest(a)) || a.craft.name.localeCompare(b.craft.name));
}

function CraftRow({ card, words }: { card: CraftCard; words: Words }) {
  const { craft, engines } = card;
  const [form, setForm] = useState<"craft" | "engine">();
  const [open, setOpen] = useState(false);
  const archived = engines.filter((e) => e.engine.archived);
  const inUse = engines.filter((e) => !e.engine.archived);
  return (
    <Box
      component="section"
      aria-label={craft.name}
      sx={{
        borderTop: 2,
        borderColor: "text.primary",
        py: 1.5,
        display: "grid",
        gridTemplateColumns: { xs: "1fr", md: "270px 1fr" },
        gap: { xs: 1, md: 3 },
      }}
    >
      <Box>
        <Typography variant="h2">{craft.name}</Typography>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {[craft.owner, craft.berth].filter(Boolean).join(". ")}
        </Typography>
        <Button
          size="small"
          sx={{ ml: -2, color: "text.secondary" }}
          onClick={() => setForm("craft")}
          aria-label={`Change ${craft.name}`}
        >
          Change
        </Button>
        <Button
          size="small"
          sx={{ color: "text.secondary" }}
          onClick={() => setForm("engine")}
          aria-label={`Add an engine to ${craft.name}`}
        >
          Add an engine
        </Button>
      </Box>
      <Stack sx={{ gap: 1 }}>
        {engines.length === 0 && <Typography sx={{ color: "text.secondary" }}>No engine yet.</Typography>}
        {inUse.map((e) => (
          <EngineRow key={e.engine.id} card={e} craft={craft.name} words={words} />
        ))}
        {archived.length > 0 && (
          <Button aria-expanded={open} onClick={() => setOpen(!open)} sx={{ ...quiet, justifyContent: "flex-start" }}>
            Archive of {craft.name}: {archived.length}
          </Button>
        )}
        {open && archived.map((e) => <EngineRow key={e.engine.id} card={e} craft={craft.name} words={words} />)}
      </Stack>
      <Suspense>
        {form === "craft" && <CraftForm craft={craft} onClose={() => setForm(undefined)} />}
        {form === "engine" && <EngineForm craftId={craft.id} onClose={() => setForm(undefined)} />}
      </Suspense>
    </Box>
  );
}

function EngineRow({ card, craft, words }: { card: Schemas["EngineCard"]; craft: string; words: Words }) {
  const { engine, jobs } = card;
  const [starting, setStarting] = useState(false);
  const works = useMay("work");
  return (
    <Stack sx={{ bgcolor: "background.paper", borderRadius: 1, px: 1.5, py: 0.5 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 1, flexWrap: "wrap" }}>
        <Button
          component={Link}
          to={`/engines/${engine.id}`}
          sx={{ px: 0, mr: "auto", color: "text.primary", justifyContent: "flex-start", textAlign: "left" }}
        >
          <span>
            {engine.name}
            <Typography component="span" variant="body2" sx={{ color: "text.secondary", ml: 1 }}>
              {engine.fuel}, {engine.rated_kw} kW at {engine.rated_rpm}, {lower(words.family(engine.family))}
            </Typography>
          </span>
        </Button>
        {works && (
          <Button onClick={() => setStarting(true)} aria-label={`Start a job on ${craft}, ${engine.name}`}>
            Start a job
          </Button>
        )}
      </Stack>
      {jobs.map((j) => (
        <JobLine key={j.id} job={j} words={words} />
      ))}
      <Suspense>{starting && <StartJob engine={engine} craft={craft} onClose={() => setStarting(false)} />}</Suspense>
    </Stack>
  );
}

/** Narrows the list at a desk; on a phone there is the search. A TextField would bring its menus along at once. */
function FindCraft({ find, onFind }: { find: string; onFind: (words: string) => void }) {
  return (
    <FormControl size="small" sx={{ width: 220, display: { xs: "none", md: "flex" } }}>
      <InputLabel htmlFor="find-craft">Find a craft</InputLabel>
      <OutlinedInput id="find-craft" label="Find a craft" value={find} onChange={(e) => onFind(e.target.value)} />
    </FormControl>
  );
}
