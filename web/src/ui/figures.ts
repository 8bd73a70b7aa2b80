/**
 * The fields that take a figure, found on the screen itself: so the number pad, "next" and the paste of a table work in
 * every form and every table of figures alike.
 */
type Figure = HTMLInputElement;

/** The fields that are figures, also while their system keyboard is put away. */
const figures = "input[inputmode=decimal], input[data-figure]";

export const isFigure = (x: EventTarget | null): x is Figure => x instanceof HTMLInputElement && x.matches(figures);

/** What stands round a field and belongs together: its dialog, its form, else the screen. */
const homeOf = (x: Figure): Element => x.closest("[role=dialog], form, main") ?? document.body;

const inHome = (x: Figure): Figure[] =>
  [...homeOf(x).querySelectorAll<Figure>(figures)].filter((f) => !f.disabled && f.getClientRects().length > 0);

/** The figure after this one, if there is one. */
export function nextFigure(x: Figure): Figure | undefined {
  const all = inHome(x);
  return all[all.indexOf(x) + 1];
}

/** Writes into a field as typing would, so that the screen hears of it. */
export function write(x: Figure, from: number, to: number, text: string) {
  const length = x.value.length - (to - from) + text.length;
  if (x.maxLength >= 0 && length > x.maxLength) return;
  x.setRangeText(text, from, to, "end");
  x.dispatchEvent(new InputEvent("input", { bubbles: true, data: text, inputType: "insertText" }));
}

/** Turns the sign of what is typed. */
export function turnSign(x: Figure) {
  if (x.value.startsWith("-")) write(x, 0, 1, "");
  else write(x, 0, 0, "-");
  x.setSelectionRange(x.value.length, x.value.length);
}

/** Takes away what is marked, else the last sign before the cursor. */
export function takeAway(x: Figure) {
  const [from, to] = [x.selectionStart ?? x.value.length, x.selectionEnd ?? x.value.length];
  if (from !== to) write(x, from, to, "");
  else if (from > 0) write(x, from - 1, from, "");
}

/** What a field is called, and the unit that stands beside it. */
export function nameOf(x: Figure): { label: string; unit: string } {
  const label = x.getAttribute("aria-label") ?? x.labels?.[0]?.textContent ?? "";
  const beside = x.closest(".MuiInputBase-root")?.nextElementSibling?.textContent?.trim() ?? "";
  const unit = beside.length <= 10 && !label.endsWith(beside) ? beside : "";
  return { label: label.replace(/\s*\*$/, ""), unit };
}

/** The cells of a pasted table: rows by lines, columns by tabs, else by semicolons. */
export function cellsOf(text: string): string[][] {
  const lines = text.replace(/\s+$/, "").split(/\r?\n/);
  const by = text.includes("\t") ? "\t" : ";";
  return lines.map((l) => l.split(by).map((c) => c.trim()));
}

const near = (a: number, b: number) => Math.abs(a - b) < 4;

/**
 * Lays a pasted table over the fields from this one on, to the right and down, as they stand on the screen. What has no
 * field is left out and counted.
 */
export function pasteOver(x: Figure, cells: string[][]): { taken: number; left: number } {
  const all = inHome(x).map((field) => ({ field, at: field.getBoundingClientRect() }));
  const start = x.getBoundingClientRect();
  const columns = all.filter((f) => near(f.at.top, start.top) && f.at.left >= start.left - 4).map((f) => f.at.left);
  const rows = all.filter((f) => near(f.at.left, start.left) && f.at.top >= start.top - 4).map((f) => f.at.top);
  let [taken, left] = [0, 0];
  cells.forEach((row, r) =>
    row.forEach((text, c) => {
      if (text === "") return;
      const [top, side] = [rows[r], columns[c]];
      const found = all.find(
        (f) => top !== undefined && side !== undefined && near(f.at.top, top) && near(f.at.left, side),
      );
      if (!found || (found.field.maxLength >= 0 && text.length > found.field.maxLength)) {
        left++;
        return;
      }
      write(found.field, 0, found.field.value.length, text);
      taken++;
    }),
  );
  return { taken, left };
}
