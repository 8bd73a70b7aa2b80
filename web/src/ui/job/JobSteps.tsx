import { Box, Button, Stack, Typography, useMediaQuery } from "@mui/material";
import { useState } from "react";
import { useTheme } from "@mui/material/styles";
import { Link, useLocation } from "react-router";
import type { JobPage } from "../../api/client";
import { useTitle } from "../title";
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
  const theme = useTheme();
  const { water } = theme;
  const wide = useMediaQuery(theme.breakpoints.up("lg"));
  const pane = new URLSearchParams(search).get("pane");
  const here = stepAt(pathname, pane, page);
  const next = nextStep(page);
  const step = stepsOf(page).find((s) => s.id === here);
  useTitle(paneTitle(pane, step?.label), `${page.craft.name}, ${page.engine.name}`);
  const { help, asked, leads, setHelp } = useHelp(here ?? "find");
  return (
    <>
      <Box
        sx={{ display: "flex", bgcolor: "background.paper", borderBottom: 1, borderColor: "divider", px: { lg: 1.5 } }}
      >
        <Box component="nav" aria-label="Job steps" sx={{ display: "flex", flex: 1, minWidth: 0 }}>
          {stepsOf(page).map((s) => (
            <Box
              key={s.id}
              sx={{
                flex: { xs: "1 1 auto", lg: "0 0 150px" },
                minWidth: 0,
                position: "relative",
                textAlign: { xs: "center", lg: "left" },
                // where one is, is filled; what is next is underlined, and says so
                borderBottom: 4,
                borderColor: next === s.id ? "text.primary" : "transparent",
                bgcolor: here === s.id ? water.next : next === s.id ? "action.hover" : undefined,
                color: here === s.id ? water.nextInk : "text.primary",
                py: 0.5,
                px: { xs: 0.25, lg: 1 },
              }}
            >
              <Box
                component={Link}
                to={s.to}
                aria-current={here === s.id ? "step" : undefined}
                aria-describedby={`step-${s.id}`}
                sx={{
                  color: "inherit",
                  textDecoration: "none",
                  fontWeight: 750,
                  fontSize: { xs: "0.82rem", lg: "1rem" },
                  lineHeight: 1.2,
                  "&::after": { content: '""', position: "absolute", inset: 0 }, // the whole cell can be touched
                }}
              >
                {s.label}
              </Box>
              <Typography id={`step-${s.id}`} noWrap sx={{ fontSize: "0.8rem", lineHeight: 1.25 }}>
                {next === s.id && here !== s.id ? nextWords(s.state, wide) : s.state}
              </Typography>
            </Box>
          ))}
        </Box>
        <Button
          aria-label={`? What this step is for: ${step?.label ?? "Job"}`}
          aria-expanded={help}
          onClick={() => setHelp(!help)}
          sx={{ minWidth: { xs: 32, lg: 48 }, px: 0, color: "text.primary", fontSize: "1.15rem", fontWeight: 750 }}
        >
          ?
        </Button>
      </Box>
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
