import { afterEach, describe, expect, it } from "vitest";
import { cellsOf, isFigure, nameOf, nextFigure, pasteOver, takeAway, turnSign, write } from "./figures";

/** Fields laid out in rows of so many, as a screen would: the test browser has no layout of its own. */
function laidOut(count: number, columns: number, attributes = "") {
  document.body.innerHTML = `<form>${`<input inputmode="decimal" ${attributes}>`.repeat(count)}</form>`;
  const fields = [...document.querySelectorAll("input")];
  fields.forEach((f, i) => {
    const at = new DOMRect((i % columns) * 100, Math.floor(i / columns) * 50, 90, 40);
    f.getBoundingClientRect = () => at;
    f.getClientRects = () => [at] as unknown as DOMRectList;
  });
  return fields;
}

const values = (fields: HTMLInputElement[]) => fields.map((f) => f.value);

afterEach(() => (document.body.innerHTML = ""));

describe("figures", () => {
  it("goes to the next one that can be seen and typed into, and stops at the last", () => {
    const [a, b, c] = laidOut(3, 1) as [HTMLInputElement, HTMLInputElement, HTMLInputElement];
    b.disabled = true;
    expect(nextFigure(a)).toBe(c);
    expect(nextFigure(c)).toBeUndefined();
  });

  it("knows a figure from words", () => {
    document.body.innerHTML = `<input><input inputmode="decimal"><textarea></textarea>`;
    expect([...document.body.children].map(isFigure)).toEqual([false, true, false]);
  });

  it("turns the sign there and back, and takes one sign away", () => {
    const [a] = laidOut(1, 1) as [HTMLInputElement];
    let heard = "";
    a.addEventListener("input", () => (heard = a.value));
    write(a, 0, 0, "12.5");
    turnSign(a);
    expect(heard).toBe("-12.5");
    turnSign(a);
    takeAway(a);
    expect(heard).toBe("12.");
  });

  it("types no more than the field takes", () => {
    const [a] = laidOut(1, 1, 'maxlength="3"') as [HTMLInputElement];
    ["1", "2", "3", "4"].forEach((d) => write(a, a.value.length, a.value.length, d));
    expect(a.value).toBe("123");
  });

  it("says the label and the unit beside it", () => {
    document.body.innerHTML = `<div><div class="MuiInputBase-root"><input inputmode="decimal" aria-label="Sea *"></div><p>°C</p></div>`;
    expect(nameOf(document.querySelector("input") as HTMLInputElement)).toEqual({ label: "Sea", unit: "°C" });
  });

  it("reads rows by lines, columns by tabs, else by semicolons, and leaves decimal commas alone", () => {
    expect(cellsOf("1\t2,5\r\n3\t4\r\n")).toEqual([
      ["1", "2,5"],
      ["3", "4"],
    ]);
    expect(cellsOf("1;2,5\n3;4")).toEqual([
      ["1", "2,5"],
      ["3", "4"],
    ]);
    expect(cellsOf("12.5")).toEqual([["12.5"]]);
  });

  it("lays a table over the fields from the one it was pasted into, and counts what has no field", () => {
    const fields = laidOut(6, 3);
    expect(pasteOver(fields[1] as HTMLInputElement, cellsOf("21\t22\n31\t32\n41\t42"))).toEqual({ taken: 4, left: 2 });
    expect(values(fields)).toEqual(["", "21", "22", "", "31", "32"]);
  });

  it("lays one column down its column, and an empty cell over nothing", () => {
    const fields = laidOut(6, 2);
    (fields[2] as HTMLInputElement).value = "7";
    expect(pasteOver(fields[0] as HTMLInputElement, cellsOf("1\n\n3"))).toEqual({ taken: 2, left: 0 });
    expect(values(fields)).toEqual(["1", "", "7", "", "3", ""]);
  });
});
