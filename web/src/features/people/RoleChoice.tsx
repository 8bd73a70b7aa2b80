import { Stack, Typography } from "@mui/material";
import type { Schemas } from "../../api/client";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Props {
  roles: Schemas["RoleDescription"][];
  value?: Schemas["Role"];
  onChange: (role: Schemas["Role"]) => void;
}

/** One of the roles, each with what it may do. */
export function RoleChoice({ roles, value, onChange }: Props) {
  return (
    <Stack role="group" aria-label="Role" sx={{ gap: 0.75 }}>
      {roles.map((r) => (
        <ChoiceButton
          key={r.id}
          aria-pressed={r.id === value}
          data-on={r.id === value}
          onClick={() => onChange(r.id)}
          sx={{ justifyContent: "flex-start", textAlign: "left", flexDirection: "column", alignItems: "flex-start" }}
        >
          <Typography component="span" sx={{ fontWeight: 700 }}>
            {r.label}
          </Typography>
          <Typography component="span" variant="body2">
            {r.does}
          </Typography>
        </ChoiceButton>
      ))}
    </Stack>
  );
}
