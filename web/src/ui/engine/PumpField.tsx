import { Autocomplete, Stack, TextField, Typography } from "@mui/material";
import { useInventory, useYard } from "../../api/queries";
import { driveWords, type Drive } from "./pump";
import { ChoiceButton } from "../ChoiceButton";

/** What turns the raw-water pump: a second touch says that it is not known. */
export function PumpDrive({ value, onChange }: { value: Drive | undefined; onChange: (d: Drive | undefined) => void }) {
  return (
    <Stack role="group" aria-label="What turns the raw-water pump" sx={{ gap: 0.5 }}>
      <Typography>What turns the raw-water pump? Belts are asked about only where there can be one.</Typography>
      <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap" }}>
        {(Object.entries(driveWords) as [Drive, string][]).map(([id, say]) => (
          <ChoiceButton
            key={id}
            aria-pressed={value === id}
            data-on={value === id}
            onClick={() => onChange(value === id ? undefined : id)}
          >
            {say}
          </ChoiceButton>
        ))}
      </Stack>
    </Stack>
  );
}

/** A raw-water pump's type, as on its plate: any words, the pumps of the yard and its shelf offered. */
export function PumpField({
  label,
  value,
  onChange,
  help,
}: {
  label: string;
  value: string;
  onChange: (pump: string) => void;
  help?: string;
}) {
  const yard = useYard();
  const shelf = useInventory();
  const aboard = (yard.data?.craft ?? []).flatMap((c) => c.engines.map((e) => e.engine.raw_pump));
  const known = [...new Set([...aboard, ...Object.keys(shelf.data?.pumps ?? {})])].filter(Boolean).sort();
  return (
    <Autocomplete
      freeSolo
      options={known}
      inputValue={value}
      onInputChange={(_, text) => onChange(text)}
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          helperText={help}
          slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps.htmlInput, maxLength: 80 } }}
        />
      )}
    />
  );
}
