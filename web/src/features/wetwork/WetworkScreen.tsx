import { newID } from "../../api/ids";
import { hasCoolant } from "../../ui/engine/circuit";
import { Box, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { Refused, type Catalogue, type JobPage, type Schemas } from "../../api/client";
import { useSave } from "../../api/writes";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";
import { JobFrame } from "../../ui/job/JobFrame";
import { useNotice } from "../../ui/notices";
import { OfJob } from "../../ui/job/OfJob";
import { useWriter } from "../../ui/Shell";
import { May } from "../../ui/May";
import { WhoDialog } from "../../ui/WhoDialog";
import { useTaps } from "../../ui/taps";
import type { Units } from "../../ui/units";
import { CoolantPlanner, DescalePlanner, FlushPlanner } from "./Plans";
import { kindLabels, named, type WetworkAct } from "../../ui/job/wetwork";
import { WorkView } from "./WorkView";
import { wordsOf } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** Flush, descale, coolant: acid, glycol and hose water planned, timed and put down, with what it brought. */
export function WetworkScreen() {
  return <OfJob>{(p) => <Wet {...p} />}</OfJob>;
}

type Kind = Schemas["WetworkKind"];

const planners = { flush: FlushPlanner, descale: DescalePlanner, coolant: CoolantPlanner };

function Wet({ catalogue, page, units }: { catalogue: Catalogue; page: JobPage; units: Units }) {
  const words = wordsOf(catalogue);
  const { keep, asking, setAsking } = useTaps(page.card.id);
  const { noteInJob } = useSave();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const open = page.wet.works.filter((w) => !w.ended);
  const [planning, setPlanning] = useState<Kind>();
  const [refused, setRefused] = useState<string[]>([]);
  const drawn = useDrawn();
  const kinds = (Object.keys(kindLabels) as Kind[]).filter((k) => k !== "coolant" || hasCoolant(page.engine));
  const plan = async (p: Pick<WetworkAct, "kind" | "flush" | "descale" | "coolant">) => {
    if (!name) return setAsking(true);
    setRefused([]);
    const wet: WetworkAct = { do: "plan", work: newID(), ...p };
    try {
      await noteInJob(page.card.id, { kind: "wet", wet }, "Planned");
      kept("Planned");
      setPlanning(undefined);
    } catch (e) {
      if (e instanceof Refused) setRefused((e.problem.errors ?? []).map((x) => named(x.say, words)));
      else failed(e);
    }
  };
  const Planner = planning && planners[planning];
  return (
    <JobFrame page={page} catalogue={catalogue}>
      <Box sx={{ maxWidth: 1180 }}>
        <Typography variant="h1" sx={{ mb: 1 }}>
          Flush, descale, coolant
        </Typography>
        <May right="work">
          <Box
            sx={{
              display: "grid",
              gap: 4,
              gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1.15fr) minmax(0, 1fr)" },
              alignItems: "start",
            }}
          >
            <Stack sx={{ gap: 2.5, minWidth: 0, order: open.length > 0 && !planning ? 2 : 1 }}>
              {page.closed ? (
                <Typography>The job is closed: open it again to go on.</Typography>
              ) : (
                <Box>
                  <Typography variant="h2" sx={{ mb: 0.75 }}>
                    Plan
                  </Typography>
                  <Box
                    sx={{
                      display: "grid",
                      gridTemplateColumns: "repeat(auto-fit, minmax(104px, 1fr))",
                      gap: 0.75,
                      mb: 1.5,
                    }}
                  >
                    {kinds.map((k) => (
                      <ChoiceButton
                        key={k}
                        aria-pressed={planning === k}
                        onClick={() => {
                          setRefused([]);
                          setPlanning(planning === k ? undefined : k);
                        }}
                        data-on={planning === k}
                        sx={{ flexDirection: "column", gap: 0.75, px: 1, py: 1, lineHeight: 1.2 }}
                      >
                        <Box component="span" sx={{ bgcolor: "background.paper", borderRadius: 0.5, p: 0.25 }}>
                          <Drawn of={drawn.screen(k)} width={planning ? 80 : 112} />
                        </Box>
                        {kindLabels[k]}
                      </ChoiceButton>
                    ))}
                  </Box>
                  {!planning && page.wet.works.length === 0 && (
                    <Typography sx={{ color: "text.secondary" }}>
                      Hevrin asks what is in the circuit and what it is made of, says how much of what, keeps the clock,
                      and keeps apart what must never meet.
                    </Typography>
                  )}
                  {Planner && <Planner page={page} words={words} refused={refused} onPlan={(p) => void plan(p)} />}
                </Box>
              )}
            </Stack>
            <Stack sx={{ gap: 2.5, minWidth: 0, order: open.length > 0 && !planning ? 1 : 2 }}>
              {[...page.wet.works].reverse().map((w) => (
                <WorkView
                  key={w.id}
                  job={page.card.id}
                  work={w}
                  words={words}
                  units={units}
                  onAct={(act, label) => keep({ kind: "wet", wet: { ...act, work: w.id } }, label)}
                />
              ))}
            </Stack>
          </Box>
        </May>
      </Box>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </JobFrame>
  );
}
