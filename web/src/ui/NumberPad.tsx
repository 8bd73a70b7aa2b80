import { Box, Button, Portal, Typography } from "@mui/material";
import { useCallback, useEffect, useState } from "react";
import { memory } from "../api/memory";
import { isFigure, nameOf, nextFigure, takeAway, turnSign, write, cellsOf, pasteOver } from "./figures";
import { useNotice } from "./notices";

/** On a screen that is touched: there the system's keyboard has neither a minus nor a next, and no room. */
const touched = () => window.matchMedia("(pointer: coarse)").matches;

const rather = "hevrin.keyboard";

/** How high the pad stands, for what must stay above it. */
const height = 276;

/**
 * The number pad: it comes up under every field that takes a figure, says which one and in which unit, and goes on to
 * the next. Who would rather have the system's keyboard says so on it, once.
 */
export function NumberPad() {
  const [at, setAt] = useState<HTMLInputElement>();
  const [text, setText] = useState("");
  useFigures(
    useCallback((x) => {
      setAt(x);
      setText(x?.value ?? "");
    }, []),
  );
  useRoom(
    at,
    useCallback(() => setAt(undefined), []),
  );
  if (!at) return null;
  const { label, unit } = nameOf(at);
  const type = (sign: string) =>
    write(at, at.selectionStart ?? at.value.length, at.selectionEnd ?? at.value.length, sign);
  const next = nextFigure(at);
  const goOn = () => (next ? next.focus() : at.blur());
  const system = () => {
    memory.set(rather, "system");
    again(at);
  };
  return (
    <Portal>
      <Box
        component="aside"
        aria-label="Number pad"
        data-pad
        onMouseDown={(e) => e.preventDefault()} // the field keeps the cursor
        sx={pad}
      >
        <Typography noWrap sx={{ gridColumn: "1 / 4", fontWeight: 650, alignSelf: "center", minWidth: 0 }}>
          {label}
        </Typography>
        <Typography noWrap sx={{ fontWeight: 800, textAlign: "right", alignSelf: "center", minWidth: 0 }}>
          {text} {unit}
        </Typography>
        {["1", "2", "3"].map((d) => (
          <Key key={d} shows={d} onTap={() => type(d)} />
        ))}
        <Key shows="⌫" says="Delete" onTap={() => takeAway(at)} />
        {["4", "5", "6"].map((d) => (
          <Key key={d} shows={d} onTap={() => type(d)} />
        ))}
        <Key shows="−" says="Minus" onTap={() => turnSign(at)} />
        {["7", "8", "9"].map((d) => (
          <Key key={d} shows={d} onTap={() => type(d)} />
        ))}
        <Key shows={next ? "Next" : "Done"} onTap={goOn} main />
        <Key shows="ABC" says="Use the phone's own keyboard" onTap={system} quiet />
        <Key shows="0" onTap={() => type("0")} />
        <Key shows="." says="Point" onTap={() => type(".")} />
      </Box>
    </Portal>
  );
}

const pad = {
  position: "fixed",
  insetInline: 0,
  bottom: 0,
  zIndex: 1400, // over a dialog
  height,
  display: "grid",
  gridTemplateColumns: "1fr 1fr 1fr 1.25fr",
  gridTemplateRows: "34px repeat(4, minmax(0, 1fr))",
  gap: 0.75,
  px: 1,
  pb: "max(8px, env(safe-area-inset-bottom))",
  bgcolor: "background.paper",
  borderTop: 2,
  borderColor: "text.primary",
  "@media print": { display: "none" },
} as const;

function Key(p: { shows: string; says?: string; onTap: () => void; main?: boolean; quiet?: boolean }) {
  return (
    <Button
      tabIndex={-1}
      variant={p.main ? "contained" : "outlined"}
      aria-label={p.says}
      onClick={p.onTap}
      sx={{
        minHeight: 48,
        minWidth: 0,
        p: 0,
        fontSize: p.quiet ? "1rem" : "1.5rem",
        ...(p.main
          ? { gridRow: "span 2", fontSize: "1.2rem" }
          : { borderColor: "text.primary", color: "text.primary" }),
      }}
    >
      {p.shows}
    </Button>
  );
}

/** Follows which figure has the cursor and what stands in it, and lays a pasted table over the fields. */
function useFigures(onField: (x: HTMLInputElement | undefined) => void) {
  const { done } = useNotice();
  useEffect(() => {
    const entered = (e: FocusEvent) => {
      if (!isFigure(e.target) || !touched() || memory.text(rather) === "system") return;
      e.target.dataset["figure"] = "";
      e.target.inputMode = "none";
      onField(e.target);
    };
    const left = (e: FocusEvent) => isFigure(e.target) && onField(undefined);
    const typed = (e: Event) => isFigure(e.target) && e.target.dataset["figure"] === "" && onField(e.target);
    const pasted = (e: ClipboardEvent) => {
      const cells = cellsOf(e.clipboardData?.getData("text") ?? "");
      if (e.defaultPrevented || !isFigure(e.target) || cells.flat().length < 2) return;
      e.preventDefault();
      const { taken, left } = pasteOver(e.target, cells);
      const more = left > 0 ? `; ${left} had no field` : "";
      done(`Pasted: ${taken} ${taken === 1 ? "figure" : "figures"}${more}`);
    };
    const listeners = [
      ["focusin", entered],
      ["focusout", left],
      ["input", typed],
      ["paste", pasted],
    ] as [string, EventListener][];
    listeners.forEach(([name, l]) => document.addEventListener(name, l));
    return () => listeners.forEach(([name, l]) => document.removeEventListener(name, l));
  }, [onField, done]);
}

/** While the pad stands, what is typed into stays in sight above it; a field that is gone takes the pad with it. */
function useRoom(at: HTMLInputElement | undefined, onGone: () => void) {
  useEffect(() => {
    if (!at) return;
    clearTimeout(leaving);
    document.documentElement.style.setProperty("--pad", `${height}px`);
    at.scrollIntoView({ block: "center" });
    const watch = new MutationObserver(() => !at.isConnected && onGone());
    watch.observe(document.body, { childList: true, subtree: true });
    return () => {
      watch.disconnect();
      // nothing moves under the finger that left the field by a touch on something else
      leaving = setTimeout(() => document.documentElement.style.removeProperty("--pad"), 300);
    };
  }, [at, onGone]);
}

let leaving: ReturnType<typeof setTimeout> | undefined;

/** The system's keyboard comes only to a field that is entered anew. */
function again(field: HTMLInputElement) {
  field.inputMode = "decimal";
  field.blur();
  field.focus();
}
