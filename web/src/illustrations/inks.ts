import type { Theme } from "@mui/material/styles";

/** The colours of the drawings, each theme its own; stuff is told by its pattern as well. */
export function penOf({ water, palette }: Pick<Theme, "water" | "palette">) {
  const dark = palette.mode === "dark";
  return {
    ink: palette.text.primary,
    paper: water.panel,
    accent: water.found,
    raw: water.raw,
    coolant: water.coolant,
    rawTone: dark ? "#0e2a36" : "#d9ecf4",
    coolantTone: dark ? "#38220f" : "#fbe7d3",
    metal: dark ? "#2a3539" : "#dfe4e5",
    oil: dark ? "#574a18" : "#efe0a4",
    rubber: dark ? "#5d6f76" : "#5b6f76",
    crust: dark ? "#4d463a" : "#e6dcc8",
    weed: dark ? "#29442c" : "#cfe0c4",
  };
}
