import { Box, Button, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { StateShape } from "../StateShape";
import { verdictWords } from "./steps";
import { day, lower, minutes, type Words } from "../words";

/** How far a job is: how it ended, what it waits for, what was found, what its run came to. */
function progressOf(job: Schemas["JobCard"], cause: string) {
  const verdict = job.verdict ? `${verdictWords[job.verdict]}. ` : "";
  if (job.closed) return verdict + (cause || "No cause named");
  if (job.waiting) return `${verdict}Waiting for ${job.waiting}`;
  if (verdict) return `${verdict}${cause || "To be closed"}`;
  if (cause) return `Found: ${lower(cause)}`;
  return job.checks > 0 ? "Being traced" : "Nothing looked at yet";
}

/** A cured or closed job is clear; a cause found, a run that failed, or a hunt that goes on stand out. */
function shapeOf(job: Schemas["JobCard"]) {
  if (job.verdict === "cured") return "clear"; // tight is not proved under load
  if (job.verdict === "not-cured") return "found";
  if (job.faults.length > 0) return job.closed ? "clear" : "found";
  return job.checks > 0 ? "suspect" : "untouched";
}

/** A job in one line: what is seen, how far it is. */
export function JobLine({ job, words }: { job: Schemas["JobCard"]; words: Words }) {
  const { water } = useTheme();
  const complaint = job.complaint.map((f, i) => (i ? lower(words.finding(f)) : words.finding(f))).join(", ");
  const cause = job.faults.map(words.fault).join(", ");
  const progress = progressOf(job, cause);
  return (
    <Button
      component={Link}
      to={`/jobs/${job.id}/next`}
      fullWidth
      sx={{
        px: 0,
        py: 1,
        gap: 1.5,
        color: "text.primary",
        textAlign: "left",
        justifyContent: "flex-start",
        borderTop: 1,
        borderColor: "divider",
        borderRadius: 0,
        fontWeight: 400,
      }}
    >
      <StateShape state={shapeOf(job)} />
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography sx={{ lineHeight: 1.25 }}>{complaint || job.words || words.jobKind(job.job_kind)}</Typography>
        <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.35 }}>
          <Box component="span" sx={{ fontWeight: 650, color: cause && !job.closed ? water.found : "text.primary" }}>
            {progress}
          </Box>
          {". "}
          {day(job.opened_at)}, {job.opened_by}
          {job.checks > 0 && `. ${job.checks} ${job.checks === 1 ? "check" : "checks"}, ${minutes(job.minutes)}`}
        </Typography>
      </Box>
    </Button>
  );
}
