import { Alert, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "react-router";
import { answerShared, getShared } from "../../api/client";
import { Loaded } from "../../ui/Loaded";
import { saysNo, useTry } from "../../ui/refusals";
import { useTitle } from "../../ui/title";
import { UnitChoice } from "../../ui/UnitChoice";
import { useSystem } from "../../ui/unitSystem";
import { unitsOf } from "../../ui/units";
import { day } from "../../ui/words";
import { Fold } from "../../ui/Fold";
import { ReportSheet } from "./ReportSheet";
import { SharedEngine } from "./SharedEngine";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** What an owner sees who opens the yard's link: a report and a way to answer it, or an engine's page. */
export function SharedScreen() {
  useTitle("From the yard");
  const token = useLocation().hash.slice(1);
  const system = useSystem();
  const shared = useQuery({
    queryKey: ["shared", token, system],
    queryFn: () => getShared(token),
    retry: false,
    staleTime: Infinity, // each reading is counted
  });
  return (
    <Box component="main" sx={{ maxWidth: 900, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      {shared.error ? (
        <Alert severity="error">{saysNo(shared.error)}</Alert>
      ) : (
        <Loaded query={shared}>
          {(s) => (
            <Stack sx={{ gap: 2.5 }}>
              {s.report && (
                <ReportSheet
                  report={s.report}
                  units={unitsOf(s.units)}
                  system={system}
                  photosAt={`/api/v1/shared/${token}/photos`}
                />
              )}
              {s.engine && <SharedEngine engine={s.engine} />}
              <Stack sx={{ gap: 2.5, "@media print": { display: "none" } }}>
                {s.report && <Answer token={token} />}
                <Fold title="Units">
                  <UnitChoice />
                </Fold>
                <Typography variant="body2" sx={{ color: "text.secondary" }}>
                  This page can be read until {day(s.until)}.
                </Typography>
              </Stack>
            </Stack>
          )}
        </Loaded>
      )}
    </Box>
  );
}

function Answer({ token }: { token: string }) {
  const [name, setName] = useState("");
  const [words, setWords] = useState("");
  const [sent, setSent] = useState("");
  const { refused, busy, attempt } = useTry();
  const send = async (approved: boolean) => {
    if (await attempt(() => answerShared(token, { name: name.trim(), approved, words: words.trim() })))
      setSent(approved ? "Thank you: the yard sees that you approve." : "Thank you: the yard has your question.");
  };
  if (sent)
    return (
      <Alert severity="success" role="status">
        {sent}
      </Alert>
    );
  return (
    <Box component="section" aria-label="Answer the yard">
      <Typography variant="h2" sx={{ mb: 1 }}>
        Answer the yard
      </Typography>
      <Stack sx={{ gap: 1.5 }}>
        <TextField
          label="Your name"
          value={name}
          onChange={(e) => setName(e.target.value)}
          autoComplete="name"
          slotProps={{ htmlInput: { maxLength: 60 } }}
        />
        <TextField
          label="A question, or a word"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          multiline
          minRows={2}
          slotProps={{ htmlInput: { maxLength: 2000 } }}
        />
        {refused && <Alert severity="error">{refused}</Alert>}
        <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
          <Button
            variant="contained"
            disabled={busy || !name.trim()}
            onClick={() => void send(true)}
            sx={{ minHeight: 52 }}
          >
            I approve
          </Button>
          <ChoiceButton disabled={busy || !name.trim() || !words.trim()} onClick={() => void send(false)}>
            Ask
          </ChoiceButton>
        </Stack>
      </Stack>
    </Box>
  );
}
