import { fireEvent, screen, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Catalogue, JobPage, Schemas } from "../api/client";
import { BeforeClosing } from "../features/job/BeforeClosing";
import { Comeback } from "../features/methods/Comeback";
import { OwnRates } from "../features/methods/OwnFigures";
import { WhereItStood } from "../features/methods/WhereItStood";
import { wordsOf } from "../ui/words";
import { show } from "./show";

const words = wordsOf({
  checks: [
    { id: "a", label: "Look at the inlet" },
    { id: "b", label: "Look into the strainer" },
  ],
  faults: [
    { id: "f", label: "Strainer clogged" },
    { id: "g", label: "Impeller tired" },
  ],
  findings: [],
  stations: [],
  access: [],
  history: [],
  job_kinds: [],
  waters: [],
  points: [],
} as unknown as Catalogue);

const figures: Schemas["YardFigures"] = {
  rates: {},
  minutes: {},
  comeback_minutes: 60,
  comeback_shipped: 60,
  chosen: [],
  seen: "last",
};
const hindsight = {
  jobs: 8,
  left: 0,
  unjudged: 0,
  catalogues: ["2026.11"],
  complaint: { first: 3, three: 6 },
  after: [{ first: 5, three: 7 }],
  rates: [
    { fault: "f", jobs: 8, confirmed: 5, catalogue: 0.08, own: 0.2357 },
    { fault: "g", jobs: 8, confirmed: 0, catalogue: 0.08, own: 0.0571 },
  ],
  minutes: [],
  figures,
} as unknown as Schemas["Hindsight"];

describe("what is worth a look before closing up", () => {
  const page = (saves: Record<string, number>) =>
    ({
      diagnosis: {
        next_checks: Object.entries(saves).map(([check, first_saves]) => ({
          check,
          minutes: 4,
          access_minutes: 6,
          confirm_chance: 0.3,
          first_saves,
        })),
      },
    }) as unknown as JobPage;
  it("leads with what spares most, and leaves out what spares less than a minute", () => {
    const onCheck = vi.fn();
    show(<BeforeClosing page={page({ a: 2, b: 11, c: 0.9 })} words={words} onCheck={onCheck} />);
    const list = screen.getAllByRole("button");
    expect(list.map((x) => x.textContent)).toEqual([
      expect.stringMatching(/^Look into the strainer: 10\smin, 30\s% chance/),
      expect.stringMatching(/^Look at the inlet/),
    ]);
    fireEvent.click(list[0] as HTMLElement);
    expect(onCheck).toHaveBeenCalledWith("b");
  });
  it("says nothing where the proof is the cheaper look", () => {
    show(<BeforeClosing page={page({ a: 0 })} words={words} onCheck={vi.fn()} />);
    expect(screen.queryByRole("region")).toBeNull();
  });
});

describe("a yard's own figures", () => {
  it("stand beside the catalogue's until somebody chooses them, those of all faults together", () => {
    const onWrite = vi.fn();
    show(<OwnRates {...{ hindsight, words, onWrite }} may />);
    const rows = screen.getAllByRole("row");
    expect(rows).toHaveLength(2); // its head, and what was a cause; the rest at a touch
    expect(rows[1]?.textContent).toMatch(/Strainer clogged5 of 88\s%24\s%/);
    fireEvent.click(screen.getByRole("button", { name: "Show all 2" }));
    expect(screen.getAllByRole("row")).toHaveLength(3);
    fireEvent.click(screen.getByRole("button", { name: "Go by your own" }));
    expect(onWrite).toHaveBeenCalledWith(
      { kind: "figures", figures: { what: "rates", values: { f: 0.2357, g: 0.0571 } } },
      expect.any(String),
    );
  });
  it("say who chose them, offer those of today where they moved on, and can be given back", () => {
    const onWrite = vi.fn();
    const chosen = (rates: Record<string, number>) => ({
      ...hindsight,
      figures: { ...figures, rates, chosen: [{ what: "rates" as const, by: "Kit Venn", at: "2026-05-04T09:00:00Z" }] },
    });
    const { unmount } = show(<OwnRates hindsight={chosen({ f: 0.2357, g: 0.0571 })} {...{ words, onWrite }} may />);
    expect(screen.getByText(/Kit Venn chose so on 4 May 2026/)).toBeVisible();
    expect(screen.queryByRole("button", { name: "Take those of today" })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Go by the catalogue again" }));
    expect(onWrite).toHaveBeenCalledWith({ kind: "figures", figures: { what: "rates" } }, expect.any(String));
    unmount();
    show(<OwnRates hindsight={chosen({ f: 0.2, g: 0.0571 })} {...{ words, onWrite }} may={false} />);
    expect(screen.getByRole("button", { name: "Take those of today" })).toBeDisabled();
  });
  it("of a comeback are saved in minutes, and as shipped again", () => {
    const onWrite = vi.fn();
    const mine = {
      ...figures,
      comeback_minutes: 90,
      chosen: [{ what: "comeback" as const, by: "K", at: "2026-05-04T09:00:00Z" }],
    };
    show(<Comeback figures={mine} may onWrite={onWrite} />);
    expect(screen.getByText(/goes by 90\smin: K chose so on 4 May 2026/)).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: /: more$/ }));
    fireEvent.click(screen.getByRole("button", { name: /^Go by/ }));
    fireEvent.click(screen.getByRole("button", { name: "As shipped" }));
    expect(onWrite.mock.calls.map(([e]: { figures?: unknown }[]) => e?.figures)).toEqual([
      { what: "comeback", comeback_minutes: 105 },
      { what: "comeback", comeback_minutes: 0 },
    ]);
  });
  it("say what was seen when they were first touched, as somebody else may choose meanwhile", () => {
    const onWrite = vi.fn();
    const { rerender } = show(<Comeback figures={figures} may onWrite={onWrite} />);
    fireEvent.click(screen.getByRole("button", { name: /: more$/ }));
    rerender(<Comeback figures={{ ...figures, seen: "another's" }} may onWrite={onWrite} />);
    fireEvent.click(screen.getByRole("button", { name: /: more$/ }));
    fireEvent.click(screen.getByRole("button", { name: /^Go by/ })); // and the second is told
    fireEvent.click(screen.getByRole("button", { name: /^Go by/ })); // which was seen
    expect(onWrite.mock.calls.map(([e]: { seen?: string }[]) => e?.seen)).toEqual(["last", "another's"]);
  });
});

it("where the cause stood is told in figures beside its bars", () => {
  show(<WhereItStood hindsight={hindsight} />);
  const rows = screen.getAllByRole("listitem");
  expect(within(rows[0] as HTMLElement).getByText("3 of 8 first, 6 among the first three")).toBeVisible();
  expect(rows[1]?.textContent).toContain("After one look");
});
