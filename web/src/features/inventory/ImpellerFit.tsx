import { Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { fitImpeller, type Schemas } from "../../api/client";
import { useNotice } from "../../ui/notices";
import { draftOf, Measures, measuresOf, notANumber } from "./Measures";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Fitting = Schemas["Fittings"]["list"][number];

const fitWords = { fits: "Fits", "may-fit": "May fit", "does-not-fit": "Does not fit" };

/** The old impeller measured: what in stock and at the supplier goes in its place. */
export function ImpellerFit() {
  const [open, setOpen] = useState(false);
  const [old, setOld] = useState(draftOf);
  const [list, setList] = useState<Fitting[]>();
  const { failed } = useNotice();
  const measured = measuresOf(old);
  const ask = () => measured && fitImpeller(measured).then((f) => setList(f.list), failed);
  return (
    <Box component="section" aria-label="Which impeller fits?" sx={{ my: 2 }}>
      <ChoiceButton onClick={() => setOpen(!open)} aria-expanded={open} data-on={open}>
        Which impeller fits?
      </ChoiceButton>
      {open && (
        <Stack sx={{ gap: 1.25, mt: 1.5 }}>
          <Measures
            draft={old}
            onChange={(d) => {
              setOld(d);
              setList(undefined);
            }}
          />
          <Button
            variant="contained"
            disabled={!measured || notANumber(old) !== undefined}
            onClick={() => void ask()}
            sx={{ alignSelf: "flex-start" }}
          >
            Compare
          </Button>
          {list?.length === 0 && (
            <Typography>No impeller in stock or at the supplier has its measures down.</Typography>
          )}
          {list && <Answers list={list} />}
          <Typography variant="body2" sx={{ color: "text.secondary" }}>
            Blades pressed flat; an old one whose blades have taken a set measures small. Lay the new seal on the old.
          </Typography>
        </Stack>
      )}
    </Box>
  );
}

/** What fits and may fit with its reasons; what does not is counted, and told when asked for. */
function Answers({ list }: { list: Fitting[] }) {
  const [all, setAll] = useState(false);
  const not = list.filter((f) => f.fit === "does-not-fit");
  const shown = all ? list : list.filter((f) => f.fit !== "does-not-fit");
  return (
    <>
      {shown.length === 0 && list.length > 0 && <Typography>Nothing that was compared fits.</Typography>}
      {shown.map((f) => (
        <Box key={f.name} sx={{ borderTop: 1, borderColor: "divider", pt: 0.5 }}>
          <Typography sx={{ fontWeight: f.fit === "fits" ? 750 : 550 }}>
            {fitWords[f.fit]}: {f.name}
          </Typography>
          <Typography variant="body2" sx={{ color: "text.secondary" }}>
            {f.reasons.join("; ")}
          </Typography>
        </Box>
      ))}
      {not.length > 0 && (
        <Button onClick={() => setAll(!all)} aria-expanded={all} sx={{ alignSelf: "flex-start", px: 0 }}>
          {all
            ? "Only what fits or may fit"
            : `${not.length === 1 ? "1 does" : `${String(not.length)} do`} not fit: show why`}
        </Button>
      )}
    </>
  );
}
