import { Autocomplete, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useYard } from "../../api/queries";
import { PumpField } from "../../ui/engine/PumpField";
import { howWords } from "../../ui/inventory";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Fit = Schemas["PartFit"];

const sameAs = (a: Fit) => (b: Fit) => a.engine === b.engine && a.pump === b.pump;

/** Which engines and which raw-water pumps a part fits, and how that is known. */
export function FitsOn({
  fits,
  onFits,
  onOpen,
}: {
  fits: Fit[];
  onFits: (f: Fit[]) => void;
  /** Whether something is chosen of which it is not said yet how it is known. */
  onOpen: (open: boolean) => void;
}) {
  const yard = useYard();
  const engines = (yard.data?.craft ?? []).flatMap((c) =>
    c.engines.map((e) => ({ id: e.engine.id, label: `${c.craft.name}, ${e.engine.name}` })),
  );
  const [engine, setEngine] = useState<string>();
  const [pump, setPump] = useState("");
  const nameOf = (f: Fit) =>
    f.pump ? `Pump ${f.pump}` : (engines.find((e) => e.id === f.engine)?.label ?? "an engine");
  const chosen: Fit["engine"] = engine;
  const add = (how: Fit["how"]) => {
    const next: Fit[] = [];
    if (chosen) next.push({ engine: chosen, how });
    if (pump.trim()) next.push({ pump: pump.trim(), how });
    onFits([...fits.filter((f) => !next.some(sameAs(f))), ...next]);
    setEngine(undefined);
    setPump("");
    onOpen(false);
  };
  return (
    <Stack sx={{ gap: 1.5 }}>
      <Typography variant="h3">Fits</Typography>
      {fits.map((f) => (
        <Stack key={`${f.engine ?? ""} ${f.pump ?? ""}`} direction="row" sx={{ alignItems: "center", gap: 1 }}>
          <Typography sx={{ mr: "auto" }}>
            {nameOf(f)}: {howWords[f.how]}
          </Typography>
          <Button onClick={() => onFits(fits.filter((x) => x !== f))} aria-label={`Take away: ${nameOf(f)}`}>
            Take away
          </Button>
        </Stack>
      ))}
      <Stack direction={{ xs: "column", sm: "row" }} sx={{ gap: 1.5, "& > *": { flex: 1 } }}>
        <Autocomplete
          options={engines}
          value={engines.find((e) => e.id === engine) ?? null}
          onChange={(_, e) => {
            setEngine(e?.id);
            onOpen(!!e || pump.trim() !== "");
          }}
          isOptionEqualToValue={(a, b) => a.id === b.id}
          getOptionKey={(e) => e.id}
          renderInput={(params) => <TextField {...params} label="An engine" />}
        />
        <PumpField
          label="A raw-water pump, by its plate"
          value={pump}
          onChange={(p) => {
            setPump(p);
            onOpen(!!engine || p.trim() !== "");
          }}
        />
      </Stack>
      {(chosen ?? pump.trim()) && (
        <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
          <Typography sx={{ width: "100%" }}>How is that known? Say it, or empty the field again.</Typography>
          {(["tried", "measured", "listed"] as const).map((how) => (
            <ChoiceButton key={how} onClick={() => add(how)}>
              It fits: {howWords[how]}
            </ChoiceButton>
          ))}
        </Stack>
      )}
    </Stack>
  );
}
