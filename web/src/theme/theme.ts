import { alpha, createTheme, type Theme } from "@mui/material/styles";

/** Deck: for the sun. Engine space: for the dark. Colours name what they stand for; shape and words say it too. */
export type Light = "deck" | "engine-space";

interface Water {
  raw: string;
  coolant: string;
  dry: string;
  pipeEdge: string;
  panel: string;
  sunk: string;
  next: string;
  nextInk: string;
  found: string;
  suspect: string;
  clear: string;
  quiet: string;
}

declare module "@mui/material/Button" {
  interface ButtonPropsVariantOverrides {
    /** One of a few answers: framed; filled where it stands (data-on), with a weight that does not need the colour. */
    choice: true;
  }
}

declare module "@mui/material/styles" {
  interface Theme {
    water: Water;
  }
  interface ThemeOptions {
    water?: Water;
  }
}

interface Tokens {
  mode: "light" | "dark";
  ground: string;
  ink: string;
  soft: string;
  /** Parts one thing from the next. */
  line: string;
  /** Frames what can be touched or typed into: at least 3 to 1 against all that it lies on (WCAG 2.2, 1.4.11). */
  edge: string;
  pressed: string;
  water: Water;
}

export const tokens: Record<Light, Tokens> = {
  deck: {
    mode: "light",
    ground: "#dfe8e8",
    ink: "#08191f",
    soft: "#33505a",
    line: "#a9bec3",
    edge: "#66808a",
    pressed: "#075473",
    water: {
      raw: "#09668a",
      coolant: "#b4500f",
      dry: "#5b6f76",
      pipeEdge: "#08191f",
      panel: "#fbfdfd",
      sunk: "#eef3f3",
      next: "#08191f",
      nextInk: "#ffd84d",
      found: "#a3113a",
      suspect: "#7a4b00",
      clear: "#11693a",
      quiet: "#4d656d",
    },
  },
  "engine-space": {
    mode: "dark",
    ground: "#070d0f",
    ink: "#eaf3f3",
    soft: "#a9c0c6",
    line: "#2c4148",
    edge: "#627c85",
    pressed: "#6cc6e8", // under a finger: lighter in the dark, so that its words stay readable
    water: {
      raw: "#47b4dc",
      coolant: "#f39a4f",
      dry: "#8ea4ab",
      pipeEdge: "#04090b",
      panel: "#111c20",
      sunk: "#0c1518",
      next: "#ffd84d",
      nextInk: "#0a1316",
      found: "#ff7d9c",
      suspect: "#ffcb6b",
      clear: "#6fdb9b",
      quiet: "#8ea4ab",
    },
  },
};

const font = '"Atkinson Hyperlegible Next Variable", "Atkinson Hyperlegible Next", sans-serif';

/** What frames a choice, and fills it where it stands. */
const choice = (ink: string, edge: string, panel: string) => ({
  border: `2px solid ${edge}`,
  color: ink,
  fontWeight: 450,
  paddingInline: 12,
  '&[data-on="true"], &[data-on="true"]:hover': {
    borderColor: ink,
    backgroundColor: ink,
    color: panel,
    fontWeight: 700,
  },
});

/** The colours for what is styled by classes: what a tap on an answer draws, drawn several times as fast as by sx. */
const properties = (t: Tokens, theme: Theme) => ({
  "--ink": t.ink,
  "--soft": t.soft,
  "--line": t.line,
  "--edge": t.edge,
  "--paper": t.water.panel,
  "--next": t.water.next,
  "--next-ink": t.water.nextInk,
  "--found": t.water.found,
  "--primary": t.water.raw,
  "--pressed": t.pressed,
  "--on-primary": theme.palette.primary.contrastText,
  "--hover": theme.palette.action.hover,
});

/** A plain button that looks as MUI's of the variant "choice" does, "text" or "contained" by its class. */
const plainButton = (theme: Theme) => ({
  ...theme.typography.button,
  display: "inline-flex",
  alignItems: "center",
  justifyContent: "center",
  boxSizing: "border-box",
  minWidth: 64,
  minHeight: 48,
  margin: 0,
  paddingBlock: 6,
  borderRadius: 4,
  background: "transparent",
  cursor: "pointer",
  userSelect: "none",
  WebkitTapHighlightColor: "transparent",
  // a finger does not hover: what it touched last would stay marked
  "@media (hover: hover)": {
    "&:hover": { backgroundColor: alpha(theme.palette.text.primary, theme.palette.action.hoverOpacity) },
  },
  "&:disabled": { color: theme.palette.action.disabled, cursor: "default", pointerEvents: "none" },
  textDecoration: "none",
});

const text = (primary: string) => ({ border: 0, color: primary, paddingInline: 16 });

const contained = (t: Tokens, onPrimary: string) => ({
  border: 0,
  color: onPrimary,
  backgroundColor: t.water.raw,
  paddingInline: 16,
  "@media (hover: hover)": { "&:hover": { backgroundColor: t.pressed } },
});

export function themeFor(light: Light): Theme {
  const t = tokens[light];
  return createTheme({
    water: t.water,
    palette: {
      mode: t.mode,
      primary: { main: t.water.raw, dark: t.pressed, contrastText: t.mode === "light" ? "#ffffff" : "#04141b" },
      error: { main: t.water.found },
      background: { default: t.ground, paper: t.water.panel },
      text: { primary: t.ink, secondary: t.soft },
      divider: t.line,
    },
    shape: { borderRadius: 4 },
    typography: {
      fontFamily: font,
      fontSize: 15,
      button: { textTransform: "none", fontWeight: 650, fontSize: "1rem" },
      h1: { fontSize: "1.75rem", fontWeight: 750, lineHeight: 1.15, letterSpacing: "-0.01em" },
      h2: { fontSize: "1.2rem", fontWeight: 700, lineHeight: 1.2 },
      h3: { fontSize: "1rem", fontWeight: 700, lineHeight: 1.25 },
      overline: {
        fontSize: "0.82rem",
        fontWeight: 650,
        letterSpacing: "0.02em",
        textTransform: "none",
        lineHeight: 1.4,
      },
    },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { disableElevation: true },
        styleOverrides: {
          root: {
            minHeight: 48,
            borderRadius: 4,
            paddingInline: 16,
            variants: [{ props: { variant: "choice" }, style: choice(t.ink, t.edge, t.water.panel) }],
          },
        },
      },
      MuiSlider: {
        styleOverrides: {
          root: { height: 10, color: t.ink, padding: "18px 0" },
          rail: { opacity: 1, backgroundColor: t.edge, borderRadius: 2 },
          track: { border: 0, borderRadius: 2 },
          thumb: {
            width: 22,
            height: 34,
            borderRadius: 4,
            backgroundColor: t.water.panel,
            border: `4px solid ${t.ink}`,
            "&::before": { boxShadow: "none" },
            "&:hover, &.Mui-active": { boxShadow: "none" },
            "&.Mui-focusVisible": { boxShadow: `0 0 0 4px ${t.water.raw}` },
          },
        },
      },
      MuiOutlinedInput: { styleOverrides: { notchedOutline: { borderColor: t.edge } } },
      MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
      MuiCssBaseline: {
        styleOverrides: (theme) => ({
          ":root": properties(t, theme),
          ".choice": { ...plainButton(theme), ...choice(t.ink, t.edge, t.water.panel) },
          ".text": { ...plainButton(theme), ...text(t.water.raw) },
          ".contained": { ...plainButton(theme), ...contained(t, theme.palette.primary.contrastText) },
          body: { fontVariantNumeric: "tabular-nums" },
          a: { color: t.water.raw },
          // room for the number pad while it stands, and for the lines that stay at the top
          html: {
            scrollPaddingBottom: "var(--pad, 0px)",
            scrollPaddingTop: "calc(var(--practice-line, 0px) + var(--link-line, 0px) + var(--state-line, 0px))",
          },
          "#root": { paddingBottom: "var(--pad, 0px)" },
          ".MuiDialog-container": { boxSizing: "border-box", paddingBottom: "var(--pad, 0px)" },
          "*:focus-visible": { outline: `3px solid ${t.water.raw}`, outlineOffset: 2 },
          "@media (prefers-reduced-motion: reduce)": {
            "*": { transition: "none !important", animation: "none !important" },
          },
        }),
      },
    },
  });
}
