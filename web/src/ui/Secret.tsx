import { Button, Stack, TextField } from "@mui/material";
import { useState } from "react";

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** What a browser may fill in. */
  fills: "current-password" | "new-password" | "one-time-code";
  help?: string;
  digits?: boolean;
}

/** A field for what nobody else is to see; it can be shown, for wet hands mistype. */
export function Secret({ label, value, onChange, fills, help, digits }: Props) {
  const [shown, setShown] = useState(false);
  return (
    <Stack direction="row" sx={{ gap: 1, alignItems: "flex-start" }}>
      <TextField
        label={label}
        type={shown ? "text" : "password"}
        value={value}
        onChange={(e) => onChange(e.target.value)}
        helperText={help}
        autoComplete={fills}
        required
        fullWidth
        slotProps={{
          htmlInput: {
            maxLength: 1000,
            autoCapitalize: "none",
            spellCheck: false,
            ...(digits && { inputMode: "numeric" }),
          },
        }}
      />
      <Button
        onClick={() => setShown(!shown)}
        aria-label={`${shown ? "Hide" : "Show"}: ${label}`}
        sx={{ minHeight: 56, flex: "none" }}
      >
        {shown ? "Hide" : "Show"}
      </Button>
    </Stack>
  );
}
