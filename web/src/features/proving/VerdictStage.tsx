import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { ProvingRun } from "../../api/client";
import { May } from "../../ui/May";
import { PlainTable } from "../../ui/PlainTable";
import { useWriter } from "../../ui/Shell";
import { gainWords, outcomeWords } from "./run";
import type { StageOf } from "./run";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** What the run comes to, and the name under it. */
export function VerdictStage({ run, stage, onRun }: StageOf) {
  const name = useWriter();
  const [codes, setCodes] = useState("");
  const [words, setWords] = useState("");
  const [ending, setEnding] = useState(false);
  const noted = stage.criteria.find((c) => c.id === "codes")?.standing === "passed";
  return (
    <Stack sx={{ gap: 2 }}>
      <Gains run={run} />
      {!noted && (
        <Box component="section" aria-label="Latched codes">
          <Typography variant="h3" sx={{ mb: 0.75 }}>
            Alarm or service codes still latched
          </Typography>
          <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
            <Button variant="contained" onClick={() => onRun({ do: "codes" }, "No codes latched")}>
              None
            </Button>
            <TextField
              label="Which, and who clears it"
              value={codes}
              onChange={(e) => setCodes(e.target.value)}
              sx={{ flex: 1, minWidth: 180, bgcolor: "background.paper" }}
            />
            <Button disabled={!codes.trim()} onClick={() => onRun({ do: "codes", words: codes.trim() }, "Codes noted")}>
              Note it
            </Button>
          </Stack>
        </Box>
      )}
      <Stack sx={{ gap: 1, borderTop: 3, borderColor: "text.primary", pt: 1.5 }}>
        <Typography sx={{ fontSize: "1.6rem", fontWeight: 800, lineHeight: 1.1 }}>
          {outcomeWords[run.outcome]}
        </Typography>
        {run.outcome !== "unfinished" && (
          <TextField
            label="A word to the owner"
            value={words}
            onChange={(e) => setWords(e.target.value)}
            multiline
            sx={{ bgcolor: "background.paper" }}
          />
        )}
        <May right="sign">
          <Button
            variant="contained"
            disabled={run.outcome === "unfinished"}
            onClick={() =>
              onRun(
                { do: "sign", ...(words.trim() && { words: words.trim() }) },
                `Signed: ${outcomeWords[run.outcome].toLowerCase()}`,
              )
            }
            sx={{ minHeight: 64, fontSize: "1.15rem" }}
          >
            {run.outcome === "unfinished"
              ? "Finish the stages to sign it"
              : `Sign it as ${outcomeWords[run.outcome].toLowerCase()}${name ? `: ${name}` : ""}`}
          </Button>
        </May>
        {!ending && (
          <Button onClick={() => setEnding(true)} sx={{ alignSelf: "flex-start", px: 0 }}>
            End the run without a verdict
          </Button>
        )}
        {ending && (
          <Stack direction="row" sx={{ gap: 1 }}>
            <TextField
              label="It ends here, because"
              value={words}
              onChange={(e) => setWords(e.target.value)}
              sx={{ flex: 1 }}
            />
            <ChoiceButton
              disabled={!words.trim()}
              onClick={() => onRun({ do: "drop", words: words.trim() }, "The run ended without a verdict")}
            >
              End it
            </ChoiceButton>
          </Stack>
        )}
      </Stack>
    </Stack>
  );
}

/** The engine's health before the repair and in this run, figure by figure. */
export function Gains({ run }: { run: ProvingRun }) {
  if (run.gains.length === 0) return null;
  return (
    <Box component="section" aria-label="Before and after">
      <Typography variant="h3">Before and after{run.against && `, against ${run.against}`}</Typography>
      <PlainTable head={["Of healthy", "Before", "After"]}>
        {run.gains.map((g) => {
          const say = gainWords(g);
          return (
            <tr key={g.label}>
              <td>{g.label.charAt(0).toUpperCase() + g.label.slice(1)}</td>
              <td>{say.before}</td>
              <Box component="td" sx={{ fontWeight: "750 !important" }}>
                {say.after}
              </Box>
            </tr>
          );
        })}
      </PlainTable>
    </Box>
  );
}
