import { Box, Button, Typography, useMediaQuery } from "@mui/material";
import { useState } from "react";
import { useTheme } from "@mui/material/styles";
import { Link, useLocation } from "react-router";
import type { JobPage } from "../../api/client";
import { useTitle } from "../title";
import { stepHelp } from "./stepHelp";
import { nextStep, stepsOf, type Step } from "./steps";

/** Which step a screen of the job belongs to, by the end of its address. */
const screens: [RegExp, Step][] = [
  [/\/(teardown|wetwork)$/, "repair"],
  [/\/(proving|datalog)$/, "prove"],
  [/\/report$/, "report"],
  [/\/round$/, "find"],
];

/** The title of a page is its pane, or else its step. */
const paneTitle = (pane: string | null, step = "Job") =>
  pane && pane !== "next" ? pane.charAt(0).toUpperCase() + pane.slice(1) : step;

/** Complaint, Find, Repair, Prove, Report: always in sight, each with its state, the next one marked. */
export function JobSteps({ page }: { page: JobPage }) {
  const { pathname, search } = useLocation();
  const theme = useTheme();
  const { water } = theme;
  const wide = useMediaQuery(theme.breakpoints.up("lg"));
  const pane = new URLSearchParams(search).get("pane");
  const begins = page.findings.length === 0 && !page.closed;
  const onJob: Step = pane === "complaint" || pane === "plan" || (!pane && begins) ? "complaint" : "find";
  const here = screens.find(([end]) => end.test(pathname))?.[1] ?? (pathname.startsWith("/jobs/") ? onJob : undefined);
  const next = nextStep(page);
  const step = stepsOf(page).find((s) => s.id === here);
  useTitle(paneTitle(pane, step?.label), `${page.craft.name}, ${page.engine.name}`);
  const [help, setHelp] = useState(false);
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
                flex: { xs: 1, lg: "0 0 150px" },
                minWidth: 0,
                position: "relative",
                textAlign: { xs: "center", lg: "left" },
                borderBottom: 4,
                borderColor: here !== s.id ? "transparent" : next === s.id ? water.nextInk : "text.primary",
                bgcolor: next === s.id ? water.next : undefined,
                color: next === s.id ? water.nextInk : "text.primary",
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
                  fontSize: { xs: "0.9rem", lg: "1rem" },
                  lineHeight: 1.2,
                  "&::after": { content: '""', position: "absolute", inset: 0 }, // the whole cell can be touched
                }}
              >
                {s.label}
              </Box>
              <Typography id={`step-${s.id}`} noWrap sx={{ fontSize: "0.8rem", lineHeight: 1.25 }}>
                {next === s.id && wide ? `next: ${s.state}` : s.state}
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
        <Box
          component="ul"
          aria-label="What this step is for"
          sx={{ m: 0, py: 1, pl: 4, pr: 1.5, bgcolor: "background.paper" }}
        >
          {stepHelp[here ?? "find"].map((line) => (
            <li key={line}>{line}</li>
          ))}
        </Box>
      )}
    </>
  );
}
