import { Box, Button, Stack, Typography } from "@mui/material";
import { Link } from "react-router";
import type { Letter } from "../api/letters";
import { outbox } from "../api/outbox";
import { moment } from "./words";
import { ChoiceButton } from "./ChoiceButton";

/** Where what a letter is about is looked at; none for the yard's own. */
function pageOf(l: Letter): string | undefined {
  const [, kind, id] = l.path.split("/");
  if (kind === "jobs" || kind === "engines") return `/${kind}/${id}`;
  return { inventory: "/parts", methods: "/methods" }[kind ?? ""];
}

/** Who tapped it and when. */
function stampOf(l: Letter): string {
  const { by, tapped_at } = l.body as { by?: string; tapped_at?: string };
  return [by, tapped_at && moment(Date.parse(tapped_at))].filter(Boolean).join(", ");
}

/** One thing that waits to be sent, or that stepped aside: then what this device says, and what the yard does. */
export function LetterRow({ letter: l, kept, onOpen }: { letter: Letter; kept: boolean; onOpen?: () => void }) {
  const page = pageOf(l);
  const open = page && (
    <Button component={Link} to={page} variant="choice" onClick={onOpen} aria-label={`Open: ${l.label}`}>
      {l.aside ? "See how it stands there" : "Open"}
    </Button>
  );
  return (
    <Stack role="group" aria-label={l.label} sx={{ py: 1, borderBottom: 1, borderColor: "divider" }}>
      <Stack direction="row" sx={{ gap: 1, alignItems: "center" }}>
        <Box sx={{ mr: "auto" }}>
          <Typography sx={{ fontWeight: 650 }}>{l.label}</Typography>
          <Typography variant="body2" sx={{ color: "text.secondary" }}>
            {stampOf(l)}
            {!l.aside && kept && ": waits"}
          </Typography>
          {!kept && (
            <Typography sx={{ color: "error.main" }}>Not kept: it is gone once this page is closed.</Typography>
          )}
        </Box>
        {!l.aside && open}
      </Stack>
      {l.aside && (
        <>
          <Typography sx={{ color: "error.main" }}>{l.aside}</Typography>
          <Stack direction="row" sx={{ gap: 1, mt: 0.5, flexWrap: "wrap" }}>
            {open}
            <ChoiceButton onClick={() => void outbox.again(l.id)}>Send again</ChoiceButton>
            <ChoiceButton onClick={() => void outbox.drop(l.id)}>Drop</ChoiceButton>
          </Stack>
        </>
      )}
    </Stack>
  );
}
