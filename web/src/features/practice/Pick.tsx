import { FormControl, InputLabel, MenuItem, Select } from "@mui/material";

interface PickProps {
  label: string;
  value: string;
  of: [string, string][];
  onPick: (id: string) => void;
}

/** One of a few, by its label. */
export function Pick({ label, value, of, onPick }: PickProps) {
  const id = `bench-${label.toLowerCase().replace(/ /g, "-")}`;
  return (
    <FormControl sx={{ minWidth: { xs: "100%", sm: 220 } }}>
      <InputLabel id={id}>{label}</InputLabel>
      <Select labelId={id} label={label} value={value} onChange={(e) => onPick(e.target.value)}>
        {of.map(([is, say]) => (
          <MenuItem key={is} value={is}>
            {say}
          </MenuItem>
        ))}
      </Select>
    </FormControl>
  );
}
