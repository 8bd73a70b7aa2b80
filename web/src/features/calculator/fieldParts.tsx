import { Button, InputBase, Menu, MenuItem, Typography } from "@mui/material";
import { createContext, useContext, useState } from "react";
import type { CalculatorAnswer, CalculatorField, FieldError, UnitSystem } from "../../api/client";
import type { Units } from "../../ui/units";
import { unitFor, type Sheet } from "./sheet";

/** What every field needs to know of the calculator it belongs to. */
interface Surroundings {
  sheet: Sheet;
  units: Units;
  system: UnitSystem;
  wrong: Map<string, FieldError>;
  understood: CalculatorAnswer["understood"];
  choose: (path: string, unit: string) => void;
}

const Context = createContext<Surroundings | undefined>(undefined);

export const CalculatorContext = Context.Provider;

export function useCalculator(): Surroundings {
  const c = useContext(Context);
  if (!c) throw new Error("a field stands outside its sum");
  return c;
}

export function FieldErrorText({ error, id }: { error?: FieldError; id?: string }) {
  if (!error) return null;
  return (
    <Typography id={id} role="alert" sx={{ color: "error.main", fontWeight: 600, fontSize: "0.95rem", py: 0.5 }}>
      {error.say}
    </Typography>
  );
}

/** Where something is typed: large figures on a line, no box. */
export function TypeHere(p: {
  id?: string;
  text: string;
  numeric: boolean;
  wide?: boolean;
  placeholder?: string;
  wrong?: boolean;
  small?: boolean;
  label?: string;
  describedBy?: string;
  onGive: (text: string | undefined) => void;
  onPaste?: (e: React.ClipboardEvent) => void;
}) {
  return (
    <InputBase
      value={p.text}
      onChange={(e) => p.onGive(e.target.value === "" ? undefined : e.target.value)}
      placeholder={p.placeholder}
      onPaste={p.onPaste}
      error={p.wrong}
      inputProps={{
        id: p.id,
        "aria-label": p.label,
        "aria-invalid": p.wrong,
        "aria-describedby": p.describedBy,
        inputMode: p.numeric ? "decimal" : "text",
        autoComplete: "off",
        maxLength: 200,
      }}
      sx={{
        width: p.wide ? { xs: 170, sm: 240 } : p.small ? { xs: 84, sm: 96 } : 112,
        flex: "none",
        bgcolor: (t) => t.water.sunk,
        borderBottom: 3,
        borderColor: p.wrong ? "error.main" : "text.primary",
        px: 1,
        minHeight: 48,
        fontSize: p.wide ? "1.05rem" : "1.25rem",
        fontWeight: 700,
        "& input": { textAlign: p.wide ? "left" : "right", "&::placeholder": { fontWeight: 450, opacity: 0.75 } },
      }}
    />
  );
}

/** The unit beside a number: a word where there is only one, else a choice. */
export function UnitPick({
  field,
  plain,
  width = 84,
}: {
  field: CalculatorField;
  plain: string;
  width?: number | string;
}) {
  const { sheet, units, system, choose } = useCalculator();
  const [at, setAt] = useState<HTMLElement>();
  const unit = unitFor(field, plain, sheet, units, system);
  const like = units.like(field.unit ?? "");
  if (field.kind === "text" || field.kind === "choice" || field.kind === "yes-no") return null;
  if (like.length < 2)
    return <Typography sx={{ width, flex: "none", color: "text.secondary" }}>{unit?.symbol}</Typography>;
  return (
    <>
      <Button
        onClick={(e) => setAt(e.currentTarget)}
        aria-haspopup="menu"
        aria-label={`${field.label} in ${unit?.symbol ?? ""}: choose another unit`}
        sx={{
          width,
          flex: "none",
          px: 0.5,
          minWidth: 48,
          justifyContent: "flex-start",
          whiteSpace: "nowrap",
          textDecoration: "underline dotted",
          textUnderlineOffset: 4,
        }}
      >
        {unit?.symbol}
      </Button>
      <Menu open={at !== undefined} anchorEl={at} onClose={() => setAt(undefined)}>
        {like.map((u) => (
          <MenuItem
            key={u.id}
            selected={u.id === unit?.id}
            sx={{ minHeight: 48 }}
            onClick={() => {
              choose(plain, u.id);
              setAt(undefined);
            }}
          >
            {u.symbol}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
