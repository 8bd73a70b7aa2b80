import { asksFirst } from "../ui/undoing";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { newID } from "../api/ids";
import { describe, expect, it, vi } from "vitest";
import type { Answer, Catalogue, JobPage, LogLine, NextCheck, Schemas } from "../api/client";
import { themeFor } from "../theme/theme";
import { CheckCard } from "../features/job/CheckCard";
import { CloseJob } from "../features/job/CloseJob";
import { LogList } from "../ui/LogList";
import { Spine } from "../ui/job/Spine";
import { Stepper } from "../ui/Stepper";
import { minutesToSee, SuspectList } from "../features/job/SuspectList";
import { wordsOf } from "../ui/words";

const catalogue = {
  stations: [{ id: "raw-pump", label: "Raw-water pump", what: "", closed: ["raw"], direct: ["raw"] }],
  faults: [
    { id: "vanes", label: "Impeller vanes missing", stations: ["raw-pump"], families: ["closed"] },
    { id: "tired", label: "Impeller tired", stations: ["raw-pump"], families: ["closed"] },
  ],
  findings: [
    { id: "gone", label: "Blades missing", causes: [{ fault: "vanes", strength: 0.95 }], blocks: [] },
    { id: "cracked", label: "Blades cracked", causes: [{ fault: "tired", strength: 0.95 }], blocks: [] },
  ],
  checks: [
    {
      id: "look",
      label: "Look at the impeller",
      station: "raw-pump",
      stations: ["raw-pump"],
      minutes: 6,
      access: "cover-off",
      engine: "stopped",
      needs: ["shut"],
      cautions: ["flooding"],
      settles: ["gone", "cracked"],
      reads: [],
      confirms: [],
      how: ["Count the blades."],
    },
    {
      id: "count",
      label: "Count the blades",
      station: "raw-pump",
      stations: ["raw-pump"],
      minutes: 2,
      access: null,
      engine: "running",
      needs: [],
      cautions: [],
      settles: ["gone"],
      reads: [],
      confirms: [],
      how: ["Count."],
    },
  ],
  access: [{ id: "cover-off", label: "Pump cover off", minutes: 12 }],
  job_kinds: [{ id: "runs-hot", label: "Runs hot", begins: "complaint", ends: "proved", why: "" }],
  troubles: [],
  waters: [],
  points: [{ id: "idle", label: "at idle", speed: 0.27 }],
  needs: [{ id: "shut", label: "Seacock shut" }],
  cautions: [{ id: "flooding", label: "Flooding", text: "The sea comes in." }],
  groups: [],
  grades: [],
  history: [],
  families: [],
  pairs: [],
} as unknown as Catalogue;
const words = wordsOf(catalogue);
const possible = new Set(["vanes", "tired"]);
const next = (check: string, access = 12): NextCheck => ({
  check,
  station: "raw-pump",
  minutes: 6,
  access_minutes: access,
  confirm_chance: 0.5,
  gain_bits: 0.4,
  saves_minutes: 0,
  reason: "Because.",
});
const answer = {
  suspects: [
    {
      fault: "vanes",
      probability: 0.62,
      prior: 0.08,
      moved_by: [
        { kind: "finding", id: "gone", log_odds: Math.log(8) },
        { kind: "finding", id: "cracked", log_odds: 0.01 },
        { kind: "finding", id: "cracked", point: "idle", log_odds: -0.9 },
      ],
    },
    { fault: "tired", probability: 0.004, prior: 0.08, moved_by: [] },
  ],
  next_checks: [],
  found: ["vanes"],
  given: [],
  advice: "put-right-and-prove",
  done: false,
  unexplained: ["cracked"],
  other_fault: 0.31,
} as unknown as Answer;

const show = (ui: ReactNode) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { enabled: false } } })}>
      <ThemeProvider theme={themeFor("deck")}>{ui}</ThemeProvider>
    </QueryClientProvider>,
  );
const button = (name: string | RegExp) => screen.getByRole("button", { name });

describe("a check", () => {
  const onJob = (closed: boolean) =>
    ({
      card: { id: newID() },
      engine: { family: "closed", circuit: ["intake", "seacock", "raw-pump"] },
      photos: [],
      checks: [],
      rounds: [],
      ...(closed && { closed: {} }),
    }) as unknown as JobPage;
  const card = (check: string, closed = false, keep = vi.fn()) => {
    show(
      <CheckCard
        page={onJob(closed)}
        {...{ catalogue, words, possible }}
        next={next(check)}
        heading={null}
        onKeep={keep}
      />,
    );
    return keep;
  };
  it("says what must be shut first, what can hurt, how, and what each finding would mean", () => {
    card("look");
    for (const text of [
      "Seacock shut",
      /The sea comes in/,
      "Count the blades.",
      /Pump cover off: 12.min of the time/,
      "If so: impeller vanes missing",
    ])
      expect(screen.getByText(text)).toBeVisible();
    expect(screen.getAllByText(/^18.min$/)).toHaveLength(2); // in the head, and to begin with in the stepper
  });
  it("says beside the answers of a phone what must be so first, then what can hurt", () => {
    const dock = document.body.appendChild(document.createElement("div"));
    const before = [
      { id: "seacock", label: "Seacock shut and tagged", minutes: 1, known: false, settle: "isolate", item: "seacock" },
      { id: "lid", label: "Close up: strainer lid off", minutes: 4, known: true, settle: "access", item: "lid" },
    ];
    const asked = (check: string, more: Partial<NextCheck>) => (
      <CheckCard
        page={onJob(false)}
        {...{ catalogue, words, possible, dock }}
        next={{ ...next(check), ...more }}
        heading={null}
        onKeep={vi.fn()}
      />
    );
    const { unmount } = show(asked("look", { before }));
    expect(dock).toHaveTextContent("Before you begin: Seacock shut and tagged; Close up: strainer lid off; Flooding");
    unmount();
    show(asked("count", {}));
    expect(dock).not.toHaveTextContent("Before you begin");
    dock.remove();
  });
  it("shows how it is done, where on this engine, and beside each answer what it looks like", async () => {
    const cache = new QueryClient({ defaultOptions: { queries: { enabled: false } } });
    const gone = { plate: "impeller", show: { gone: 0.5 } };
    cache.setQueryData(["drawings"], {
      plates: [{ id: "impeller", label: "Impeller", says: "the wheel with its blades" }],
      on_leg: {},
      checks: { look: { plate: "impeller" } },
      findings: { gone: { present: gone, absent: { plate: "impeller" } } },
    });
    render(
      <QueryClientProvider client={cache}>
        <ThemeProvider theme={themeFor("deck")}>
          <CheckCard
            page={onJob(false)}
            {...{ catalogue, words, possible }}
            next={next("look")}
            heading={null}
            onKeep={vi.fn()}
          />
        </ThemeProvider>
      </QueryClientProvider>,
    );
    expect(await screen.findByRole("img", { name: "the wheel with its blades" })).toBeInTheDocument();
    const gaps = (name: string) => button(name).querySelectorAll("svg path[stroke-dasharray]").length;
    expect([gaps("Blades missing: Yes"), gaps("Blades missing: No")]).toEqual([4, 0]);
    expect(button("Blades missing: ?").querySelector("svg")).toBeNull();
  });
  it("keeps what was seen, and nothing that nobody touched, with the minutes it took", async () => {
    const keep = card("look");
    await userEvent.click(button("It took: more"));
    await userEvent.click(button("Blades missing: Yes"));
    await userEvent.click(button("Save: Blades missing"));
    expect(keep).toHaveBeenCalledWith(
      {
        kind: "check",
        check: "look",
        outcome: "done",
        minutes: 19,
        stated: [{ id: "gone", state: "present" }],
      },
      "Look at the impeller: Blades missing",
    );
  });
  it("is all clear, or clear but for what was seen, by a touch of its own", async () => {
    const keep = card("look");
    await userEvent.click(button("All clear: none of these"));
    const absent = (id: string) => ({ id, state: "absent" });
    expect(keep.mock.calls[0]?.[0]).toMatchObject({ stated: [absent("gone"), absent("cracked")] });
    await userEvent.click(button("Blades missing: Yes"));
    await userEvent.click(button("Save, and none of the others"));
    expect(keep.mock.calls[1]?.[0]).toMatchObject({ stated: [{ id: "gone", state: "present" }, absent("cracked")] });
  });
  it("takes one tap where it settles one thing", async () => {
    const keep = card("count");
    await userEvent.click(button("No"));
    expect(keep.mock.calls[0]?.[0]).toMatchObject({ check: "count", stated: [{ id: "gone", state: "absent" }] });
  });
  it("can be passed over", async () => {
    const keep = card("look");
    await userEvent.click(button("Cannot get at it"));
    expect(keep.mock.calls[0]?.[0]).toEqual({ kind: "check", check: "look", outcome: "skipped", minutes: 0 });
  });
  it("asks nothing in a closed job", () => {
    card("look", true);
    expect(screen.queryByRole("group", { name: "What did you find?" })).toBeNull();
  });
});

describe("closing a job", () => {
  it("begins with what was found and names what it leaves unexplained", async () => {
    const keep = vi.fn();
    show(
      <CloseJob
        job={newID()}
        standing={[]}
        says={[]}
        answer={answer}
        found={answer.found}
        possible={["vanes", "tired"]}
        checks={[]}
        words={words}
        onClose={vi.fn()}
        onKeep={keep}
      />,
    );
    expect(screen.getByText(/Not explained by it: Blades cracked/)).toBeVisible();
    expect(screen.getByText(/still 31.% likely/)).toBeVisible();
    expect(button("Close the job")).toBeDisabled();
    await userEvent.click(button("Not all"));
    await userEvent.click(button("Close the job"));
    expect(keep).toHaveBeenCalledWith({ kind: "closed", faults: ["vanes"], explains_everything: false }, "Job closed");
  });
  it("asks of several that were not all seen whether it was one of them, and what still tells", async () => {
    const keep = vi.fn();
    const tells = { ...catalogue.checks[0], of_removed_part: true, confirms: ["tired"] } as Schemas["Check"];
    show(
      <CloseJob
        job={newID()}
        standing={[]}
        says={[]}
        answer={{ ...answer, unexplained: [] }}
        found={["vanes"]}
        possible={["vanes", "tired"]}
        checks={[tells]}
        words={words}
        onClose={vi.fn()}
        onKeep={keep}
      />,
    );
    expect(screen.queryByText("Were all of them wrong?")).toBeNull();
    await userEvent.click(button("Impeller tired"));
    expect(screen.getByText(/until it is thrown away: look at the impeller\./)).toBeVisible();
    await userEvent.click(button("Yes, all of it"));
    expect(button("Close the job")).toBeDisabled();
    await userEvent.click(button("One of these: which is not known"));
    await userEvent.click(button("Close the job"));
    expect(keep).toHaveBeenCalledWith(
      { kind: "closed", faults: ["vanes", "tired"], one_of_these: true, explains_everything: true },
      "Job closed",
    );
  });
  it("wants a word when no cause is chosen", async () => {
    show(
      <CloseJob
        job={newID()}
        standing={[]}
        says={[]}
        answer={answer}
        found={answer.found}
        possible={["vanes", "tired"]}
        checks={[]}
        words={words}
        onClose={vi.fn()}
        onKeep={vi.fn()}
      />,
    );
    await userEvent.click(button("Not all"));
    await userEvent.click(button("Impeller vanes missing (found)"));
    expect(button("Close the job")).toBeDisabled();
    await userEvent.type(screen.getByLabelText("Note for the engine's record"), "Owner took it away");
    expect(button("Close the job")).toBeEnabled();
  });
});

describe("the panes beside it", () => {
  it("tell what it takes to be sure of a suspect: its quickest sure look, with what must be opened for it", () => {
    const looks = {
      checks: [
        { id: "slow", confirms: ["a"] },
        { id: "quick", confirms: ["a", "b"] },
      ],
    } as Catalogue;
    const next_checks = [
      { check: "slow", minutes: 5, access_minutes: 20, state_minutes: 0 },
      { check: "quick", minutes: 6, access_minutes: 2, state_minutes: 4 },
    ] as NextCheck[];
    expect(minutesToSee("a", { next_checks }, looks)).toBe(12);
    expect(minutesToSee("c", { next_checks }, looks)).toBeUndefined();
  });
  it("tell what moved a suspect, and leave out what hardly did", () => {
    const [first] = answer.suspects[0]?.moved_by ?? [];
    const findings = [
      { id: first?.id ?? "", q: 0 },
      { id: "cracked", q: 0, point: "idle" },
      { id: "cracked", q: 1, point: "load" },
    ];
    show(<SuspectList answer={answer} engine={{ circuit: [] }} {...{ catalogue, words, findings }} />);
    const list = screen.getByRole("region", { name: "Suspects" });
    expect(within(list).getByText("Blades missing: no")).toBeVisible();
    expect(within(list).getByText("Blades cracked at idle: no")).toBeVisible();
    expect(within(list).getByText(/8.0× likelier/)).toBeVisible();
    expect(within(list).queryByText("Blades cracked")).toBeNull();
    expect(within(list).getByText(/^< 1/)).toBeVisible();
  });
  it("give each station its state in words", async () => {
    const choose = vi.fn();
    const station = {
      id: "raw-pump",
      label: "Raw-water pump",
      state: "suspect" as const,
      open: false,
      share: 0.6,
      words: "suspect, 60 %",
      read: [{ side: "raw", value: 38, should: 31, off: true }],
    };
    show(<Spine spine={{ raw: [station], loop: [], beside: [], joint: -1 }} onChoose={choose} />);
    await userEvent.click(button(/Raw-water pump suspect, 60 %/));
    expect(choose).toHaveBeenCalledWith("raw-pump");
    expect(screen.getByText(/^38/)).toHaveTextContent(/^38.*should 31/);
  });
  it("keep what was taken back in the log, without a way to take it back twice", () => {
    const line = (o: Partial<LogLine>) =>
      ({
        entry_id: "e",
        kind: "note",
        by: "Kit",
        at: "2026-05-04T09:00:00Z",
        undone: false,
        words: "bolt",
        ...o,
      }) as LogLine;
    show(
      <LogList log={[line({}), line({ entry_id: "f", words: "nut", undone: true })]} words={words} onUndo={vi.fn()} />,
    );
    expect(screen.getAllByRole("button")).toHaveLength(1);
    expect(screen.getByText("nut")).toHaveStyle("text-decoration: line-through");
  });
  it("take one's own last tap back at once, and ask about another's, an older or a signed one", () => {
    const line = (id: string, by: string, over: object = {}) =>
      ({ entry_id: id, by, at: "", kind: "note", undone: false, ...over }) as LogLine;
    const log = [line("a", "Kit"), line("b", "Tam"), line("c", "Kit"), line("d", "Kit", { kind: "undo" })];
    const [a, b, c] = log;
    if (!a || !b || !c) throw new Error("three");
    expect([a, b, c].map((l) => asksFirst(l, log, "Kit"))).toEqual([true, true, false]);
    expect(asksFirst(b, [a, b], "Kit")).toBe(true);
    for (const over of [{ kind: "closed" }, { kind: "proving", proving: { do: "sign", run: "r" } }]) {
      const signed = line("s", "Kit", over);
      expect(asksFirst(signed, [a, signed], "Kit")).toBe(true);
    }
  });
  it("step within bounds", async () => {
    const change = vi.fn();
    show(<Stepper label="It took" unit="min" value={0} onChange={change} />);
    await userEvent.click(button("It took: less"));
    expect(change).toHaveBeenCalledWith(0);
  });
});
