import { act, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { outbox, type State } from "../api/outbox";
import { show } from "../testing/show";
import { Waiting } from "./Waiting";

afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

it("says in red what this device could not keep, never that it waits here, and asks before the page is left", () => {
  const letter = { id: "a", path: "/jobs/j/entries/a", body: {}, label: "Strainer: clear" };
  const state: State = { waiting: [letter], aside: [], trouble: "no-link", unkept: ["a"] };
  vi.stubGlobal("matchMedia", () => ({ matches: false }));
  vi.spyOn(outbox, "snapshot").mockReturnValue(state);
  show(<Waiting />);
  expect(screen.getByRole("alert")).toHaveTextContent(/Not kept: Strainer: clear.*Leave this page open/);
  expect(screen.queryByText(/waits on this device/)).toBeNull();
  const leaving = new Event("beforeunload", { cancelable: true });
  act(() => void window.dispatchEvent(leaving));
  expect(leaving.defaultPrevented).toBe(true);
});
