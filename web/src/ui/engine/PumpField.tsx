import { Autocomplete, TextField } from "@mui/material";
import { useInventory, useYard } from "../../api/queries";

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
