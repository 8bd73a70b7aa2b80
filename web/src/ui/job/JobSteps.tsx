import { Box, Button, Stack, useMediaQuery } from "@mui/material";
import { useState } from "react";
import { useTheme } from "@mui/material/styles";
import { Link, useLocation } from "react-router";
import type { JobPage } from "../../api/client";
import { useTitle } from "../title";
import css from "./JobSteps.module.css";
import { useGuide } from "./guide";
import { stepHelp } from "./stepHelp";
import { nextStep, stepsOf, type Step } from "./steps";

/** Which step a screen of the job belongs to, by the end of its address. */
const screens: [RegExp, Step][] = [
  [/\/(teardown|wetwork)$/, "repair"],
  [/\/(proving|datalog)$/, "prove"],
  [/\/report$/, "report"],
  [/\/round$/, "find"],
];

/** The step that an address of the job belongs to. */
function stepAt(pathname: string, pane: string | null, page: JobPage): Step | undefined {
  const screen = screens.find(([end]) => end.test(pathname));
  if (screen) return screen[1];
  if (!pathname.startsWith("/jobs/")) return undefined;
  const begins = page.findings.length === 0 && !page.closed;
  return pane === "complaint" || pane === "plan" || (!pane && begins) ? "complaint" : "find";
}

/** The title of a page is its pane, or else its step. */
const paneTitle = (pane: string | null, step = "Job") =>
  pane && pane !== "next" ? pane.charAt(0).toUpperCase() + pane.slice(1) : step;

/** Whether the help of a step stands open: as asked for, or because this device is led through its first job. */
function useHelp(step: Step) {
  const [asked, setAsked] = useState(false);
  const [leads, understood] = useGuide(step);
  const setHelp = (open: boolean) => {
    setAsked(open);
    if (!open) understood();
  };
  return { help: asked || leads, asked, leads, setHelp };
}

/** Complaint, Find, Repair, Prove, Report: always in sight, each with its state, the next one marked. */
export function JobSteps({ page }: { page: JobPage }) {
  const { pathname, search } = useLocation();
  const wide = useMediaQuery(useTheme().breakpoints.up("lg"));
  const pane = new URLSearchParams(search).get("pane");
  const here = stepAt(pathname, pane, page);
  const next = nextStep(page);
  const step = stepsOf(page).find((s) => s.id === here);
  useTitle(paneTitle(pane, step?.label), `${page.craft.name}, ${page.engine.name}`);
  const { help, asked, leads, setHelp } = useHelp(here ?? "find");
  return (
    <>
      <div className={css.bar}>
        <nav aria-label="Job steps" className={css.steps}>
          {stepsOf(page).map((s) => (
            <div key={s.id} className={`${css.step} ${next === s.id ? css.next : ""} ${here === s.id ? css.here : ""}`}>
              <Link
                to={s.to}
                aria-current={here === s.id ? "step" : undefined}
                aria-describedby={`step-${s.id}`}
                className={css.name}
              >
                {s.label}
              </Link>
              <p id={`step-${s.id}`} className={css.state}>
                {next === s.id && here !== s.id ? nextWords(s.state, wide) : s.state}
              </p>
            </div>
          ))}
        </nav>
        <button
          type="button"
          aria-label={`? What this step is for: ${step?.label ?? "Job"}`}
          aria-expanded={help}
          onClick={() => setHelp(!help)}
          className={`text ${css.help}`}
        >
          ?
        </button>
      </div>
      {help && (
        <StepHelp
          lines={stepHelp[here ?? "find"].slice(0, asked || wide ? 3 : 1)}
          onMore={asked || wide ? undefined : () => setHelp(true)}
          onUnderstood={leads ? () => setHelp(false) : undefined}
        />
      )}
    </>
  );
}

/** How the next step stands; a phone has room for one word. */
const nextWords = (state: string, wide: boolean) => (wide && state !== "not begun" ? `next: ${state}` : "next");

/** What a step is for; on a device's first job until somebody says that it is understood, on a phone a line of it. */
function StepHelp({
  lines,
  onMore,
  onUnderstood,
}: {
  lines: string[];
  onMore?: () => void;
  onUnderstood?: () => void;
}) {
  return (
    <Stack direction={{ xs: "column", lg: "row" }} sx={{ bgcolor: "background.paper", alignItems: { lg: "center" } }}>
      <Box component="ul" aria-label="What this step is for" sx={{ m: 0, py: 1, pl: 4, pr: 1.5, flex: 1 }}>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </Box>
      <Stack direction="row" sx={{ justifyContent: "flex-end" }}>
        {onMore && <Button onClick={onMore}>More</Button>}
        {onUnderstood && <Button onClick={onUnderstood}>Understood</Button>}
      </Stack>
    </Stack>
  );
}
