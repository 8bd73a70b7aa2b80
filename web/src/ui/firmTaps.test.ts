import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { firmTaps } from "./firmTaps";

let stop: () => void;
const pressed = vi.fn<(name: string) => void>();
const button = (name: string) => {
  const b = document.createElement("button");
  b.append(name);
  b.addEventListener("click", () => pressed(name));
  document.body.append(b);
  return b;
};
/** A finger comes down on one thing and the browser's click lands on another. */
const tap = (from: Element, to: Element, slid = 0) => {
  from.dispatchEvent(new PointerEvent("pointerdown", { bubbles: true, isPrimary: true, clientX: 50, clientY: 50 }));
  to.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true, clientX: 50, clientY: 50 + slid }));
};

beforeEach(() => {
  document.body.replaceChildren();
  pressed.mockClear();
  stop = firmTaps();
});
afterEach(() => {
  stop();
  document.body.replaceChildren(); // files share the window
});

test("a tap on what did not move is an ordinary tap", () => {
  const shut = button("shut");
  tap(shut, shut);
  expect(pressed.mock.calls).toEqual([["shut"]]);
});

test("a tap goes to what was under the finger, also when the page moved under it", () => {
  const [shut, open] = [button("shut"), button("open")];
  tap(shut, document.body); // the click falls between the two
  tap(shut, open); // and on the wrong one
  expect(pressed.mock.calls).toEqual([["shut"], ["shut"]]);
});

test("what came under a finger that was on nothing, or on what has gone, is not pressed", () => {
  const [shut, open] = [button("shut"), button("open")];
  tap(document.body, open);
  shut.addEventListener("pointerdown", () => shut.remove());
  tap(shut, open);
  expect(pressed).not.toHaveBeenCalled();
});

test("a finger that slides, and a key, are no taps", () => {
  const [shut, open] = [button("shut"), button("open")];
  tap(shut, open, 40);
  shut.dispatchEvent(new PointerEvent("pointerdown", { bubbles: true, isPrimary: true }));
  document.body.dispatchEvent(new KeyboardEvent("keydown", { bubbles: true, key: "Enter" }));
  open.click();
  expect(pressed.mock.calls).toEqual([["open"], ["open"]]);
});
