import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { show, stationsOf } from "./show";
import { wordsOf } from "../ui/words";
import { grouped } from "../features/maintenance/DueScreen";
import { yearFrom } from "../features/maintenance/YearStrip";
import { DueRow } from "../ui/maintenance/DueRow";
import { Hours } from "../features/engine/Hours";
import { ServiceHistory, serviceWords } from "../features/engine/ServiceHistory";
import { Seasons } from "../features/engine/Season";
import { TrendChart } from "../features/engine/TrendChart";
import { Twin } from "../features/engine/Twin";
import { about, beside, told, type DueItem, type OnUpkeep } from "../ui/maintenance/maintenance";

const words = wordsOf(stationsOf());
const says = () => vi.fn<OnUpkeep>();
const tap = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));

const due = (over: Partial<DueItem> = {}): DueItem => ({
  item: "impeller",
  label: "Impeller",
  do: "Change the impeller",
  state: "soon",
  when: "2026-06-01",
  reasons: [
    { kind: "hours", say: "500 h since 3 December 2025", when: "2026-06-01" },
    { kind: "date", say: "a year since 3 December 2025", when: "2026-12-03" },
  ],
  why: "rubber takes a set",
  access: "pump-cover-off",
  ashore: false,
  ...over,
});

const trend = (over: Partial<Schemas["TrendView"]> = {}): Schemas["TrendView"] => ({
  id: "ua",
  label: "Exchanger, share of clean",
  short: "Exchanger",
  unit: "percent",
  limit: 0.8,
  why: "under 80 %: descale",
  item: "descale",
  points: [
    { at: "2025-05-01T00:00:00Z", hours: 900, value: 0.95, error: 0.02, job_id: "j", current: true },
    { at: "2026-05-01T00:00:00Z", hours: 1200, value: 0.86, error: 0.02, job_id: "j", current: true },
  ],
  curve: [],
  say: "",
  past: false,
  hours_now: 1250,
  ...over,
});

describe("words of maintenance", () => {
  it("tell a day as well as a trend can", () => {
    expect(about("2026-06-03")).toBe("early June 2026");
    expect(about("2026-06-15")).toBe("mid June 2026");
    expect(about("2026-06-28")).toBe("late June 2026");
  });
  it("tell a figure in its unit with its error", () => {
    expect(told("percent", 0.864, 0.021)).toBe("86 ± 2\u00a0%");
    expect(told("K", -1.24)).toBe("−1.2\u00a0K");
    expect(told("h", 512.4)).toBe("512\u00a0h");
  });
  it("name what else is worth doing with the same thing open", () => {
    const groups = [
      { key: "pump-cover-off", label: "With this open: Pump cover off", items: ["impeller", "pump-seals"] },
    ];
    const all = [due(), due({ item: "pump-seals", do: "Rebuild the pump" })];
    expect(beside(due(), groups, all)).toEqual([
      { label: "With this open: Pump cover off", items: ["Rebuild the pump"] },
    ]);
    expect(beside(due({ item: "belts" }), groups, all)).toEqual([]);
  });
});

describe("a maintenance item", () => {
  it("says how pressing it is and which reason wins", async () => {
    show(<DueRow engine="e" item={due()} beside={[]} onSay={says()} />);
    const row = screen.getByRole("article", { name: "Change the impeller: soon" });
    expect(row).toHaveTextContent("Soon, 1 Jun 2026: 500 h since 3 December 2025");
    await tap(/^Change the impeller/);
    expect(row).toHaveTextContent("Else 3 Dec 2026, a year since 3 December 2025");
  });
  it("is postponed only with a reason", async () => {
    const onSay = says();
    show(<DueRow engine="e" item={due()} beside={[]} onSay={onSay} />);
    await tap(/^Change the impeller/);
    await tap("Postpone");
    expect(screen.getByRole("button", { name: "Put it off" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("Because"), "at the haul-out");
    await tap("Put it off");
    expect(onSay.mock.calls[0]?.[1].upkeep).toMatchObject({
      do: "put-off",
      item: "impeller",
      words: "at the haul-out",
    });
  });
  it("is put down as done on a day", async () => {
    const onSay = says();
    show(<DueRow engine="e" item={due({ state: "unknown", when: undefined })} beside={[]} onSay={onSay} />);
    await tap(/^Change the impeller/);
    await tap("It was done");
    await tap("Put it down");
    expect(onSay.mock.calls[0]?.[1].upkeep).toMatchObject({ do: "done", item: "impeller" });
    expect(onSay.mock.calls[0]?.[1].upkeep?.day).toMatch(/^\d{4}-\d\d-\d\d$/);
  });
  it("shows who put it off and why", () => {
    const item = due({ put_off: { until: "2026-09-01", why: "no part", by: "Tam" } });
    show(<DueRow engine="e" item={item} beside={[]} onSay={says()} />);
    expect(screen.getByText("Postponed to 1 Sept 2026 by Tam: no part")).toBeInTheDocument();
  });
});

describe("a trend", () => {
  it("says when the limit is met, in words and hours", () => {
    show(
      <TrendChart
        trend={trend({
          likely: "2026-06-15",
          early: "2026-05-20",
          late: "2026-08-03",
          limit_hours: 1390,
          shape: "linear",
        })}
      />,
    );
    expect(
      screen.getByText(/86 ± 2.% on 1 May 2026\. 80.% by mid June 2026, or about 140 hours\./),
    ).toBeInTheDocument();
    expect(
      screen.getByText(/Nine times in ten between 20 May 2026 and 3 Aug 2026\. Grows with the hours/),
    ).toBeInTheDocument();
  });
  it("says why there is no date instead of drawing one", () => {
    show(<TrendChart trend={trend({ say: "2 of 3 readings that a trend needs" })} />);
    expect(screen.getByText(/No date: 2 of 3 readings that a trend needs/)).toBeInTheDocument();
  });
  it("says when the limit is passed", () => {
    show(<TrendChart trend={trend({ past: true })} />);
    expect(screen.getByText(/past its limit of 80/)).toBeInTheDocument();
  });
  it("tells its points to those who do not see them", () => {
    show(<TrendChart trend={trend()} />);
    expect(screen.getByRole("img", { name: /95.% at 900 h, 86.% at 1200 h; limit 80/ })).toBeInTheDocument();
  });
  it("is read by the arrow keys: what was measured there, or what is expected", async () => {
    show(<TrendChart trend={trend()} />);
    const read = screen.getByRole("slider", { name: /Read the chart/ });
    read.focus();
    await userEvent.keyboard("{ArrowRight}{ArrowRight>60/}");
    expect(read).toHaveTextContent(/At 1\d\d\d h: /);
    await userEvent.keyboard("{ArrowLeft>90/}");
    expect(read).toHaveTextContent(/At 900 h: measured 95/);
    await userEvent.keyboard("{Escape}");
    expect(read).toHaveTextContent(/Touch the chart/);
  });
  it("says that it was never measured", () => {
    show(<TrendChart trend={trend({ points: [] })} />);
    expect(screen.getByText("Never measured.")).toBeInTheDocument();
    expect(screen.queryByRole("img")).toBeNull();
  });
});

describe("its hours", () => {
  const view: Schemas["HoursView"] = {
    known: true,
    use_known: true,
    now: 6477,
    error: 33,
    per_year: 838,
    by_month: Array.from({ length: 12 }, () => 2),
    last_day: "2026-05-20",
    last_hours: 5969,
  };
  it("are told with how well they are known", () => {
    show(<Hours engine="e" hours={view} onSay={says()} />);
    expect(screen.getByRole("region", { name: "Hours" })).toHaveTextContent("About 6477 h ± 33 today, 838 a year");
  });
  it("take a reading, with a decimal comma", async () => {
    const onSay = says();
    show(<Hours engine="e" hours={view} onSay={onSay} />);
    await tap("Read the meter");
    await userEvent.type(screen.getByLabelText("The meter shows, h"), "6010,5");
    await tap("Put it down");
    expect(onSay.mock.calls[0]?.[1].meter).toMatchObject({ hours: 6010.5 });
    expect(onSay.mock.calls[0]?.[1].meter).not.toHaveProperty("new_meter");
  });
  it("ask for the old meter's last reading where it was changed", async () => {
    const onSay = says();
    show(<Hours engine="e" hours={view} onSay={onSay} />);
    await tap("Read the meter");
    await tap("The meter was changed");
    await userEvent.type(screen.getByLabelText("The new meter shows, h"), "0");
    expect(screen.getByRole("button", { name: "Put it down" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("The old one showed at last, h"), "6020");
    await tap("Put it down");
    expect(onSay.mock.calls[0]?.[1].meter).toMatchObject({ hours: 0, new_meter: true, old_hours: 6020 });
  });
});

const line = (over: Partial<Schemas["ServiceLine"]>): Schemas["ServiceLine"] => ({
  job_id: "j",
  at: "2026-05-01T08:00:00Z",
  kind: "opened",
  item: "",
  label: "",
  value: 0,
  error: 0,
  ...over,
});

const record = (life: Schemas["ServiceLine"][]): Schemas["ServiceRecord"] =>
  ({ life, due: [{ item: "impeller", label: "Impeller" }] }) as unknown as Schemas["ServiceRecord"];

describe("service history", () => {
  it("is told in words", () => {
    const labels = new Map([["impeller", "Impeller"]]);
    const say = (over: Partial<Schemas["ServiceLine"]>) => serviceWords(line(over), words, labels);
    expect(say({ kind: "opened", label: "Hot" })).toBe("Job begun: Hot");
    expect(say({ kind: "cause", item: "tubes-scaled", label: "Descaled." })).toBe(
      "Job closed: tubes-scaled. Descaled.",
    );
    expect(say({ kind: "cause" })).toBe("Job closed: no cause");
    expect(say({ kind: "done", item: "impeller" })).toBe("Impeller: done");
    expect(say({ kind: "measure", item: "ua", value: 0.9, error: 0.03 })).toBe("Exchanger: 90 ± 3\u00a0%");
    expect(say({ kind: "run", item: "cured" })).toBe("Proved: cured");
    expect(say({ kind: "part", label: "Anode", value: 2, item: "ZN-12" })).toBe("2 × Anode, ZN-12");
    expect(say({ kind: "round", value: 2400 })).toBe("Round at 2400 rev/min");
  });
  it("is found by kind and by words, newest first, figures of one round together", async () => {
    const at = "2026-04-01T08:00:00Z";
    show(
      <ServiceHistory
        record={record([
          line({ kind: "measure", item: "ua", value: 0.9, error: 0.03, at }),
          line({ kind: "measure", item: "raw-flow", value: 1, error: 0.05, at }),
          line({ kind: "opened", label: "Hot off the bar" }),
        ])}
        words={words}
      />,
    );
    const rows = () => within(screen.getByRole("region", { name: "Service history" })).queryAllByRole("listitem");
    expect(rows()).toHaveLength(2);
    expect(rows()[0]).toHaveTextContent("Hot off the bar");
    expect(rows()[1]).toHaveTextContent("Exchanger: 90 ± 3 %; raw flow: 100 ± 5 %");
    await userEvent.type(screen.getByLabelText("Find in the service history"), "bar");
    expect(rows()).toHaveLength(1);
    await tap("Jobs and causes");
    expect(screen.getByText("Nothing on record that fits.")).toBeInTheDocument();
  });
});

describe("its sister", () => {
  const engine = (id: string, name: string, kw = 60) =>
    ({ id, name, family: "closed", fuel: "diesel", rated_kw: kw, rated_rpm: 3000 }) as unknown as Schemas["Engine"];
  const of = (value: number) =>
    ({
      hours: { known: true, now: 1200 },
      trends: [
        trend({ points: [{ at: "2025-05-01T00:00:00Z", hours: 900, error: 0.02, job_id: "j", current: true, value }] }),
      ],
    }) as unknown as Schemas["ServiceRecord"];
  const yard = (...engines: Schemas["Engine"][]) => ({ craft: [{ engines: engines.map((e) => ({ engine: e })) }] });
  it("stands beside it with its last figures", () => {
    show(<Twin engine={engine("a", "Port")} record={of(0.7)} />, {
      yard: yard(engine("a", "Port"), engine("b", "Starboard")),
    });
    const twin = screen.getByRole("region", { name: "Sister engine" });
    expect(twin).toHaveTextContent("Beside it: Starboard");
    expect(within(twin).getByRole("row", { name: /Exchanger 70 ± 2.%, 1 May 2025 never/ })).toBeInTheDocument();
  });
  it("is none where the other engine is of another kind", () => {
    show(<Twin engine={engine("a", "Main")} record={of(0.7)} />, {
      yard: yard(engine("a", "Main"), engine("b", "Generator", 8)),
    });
    expect(screen.queryByRole("region", { name: "Sister engine" })).toBeNull();
  });
});

describe("a season's list", () => {
  const seasons: Schemas["SeasonView"][] = ["lay-up", "spring"].map((id) => ({
    id,
    label: id === "spring" ? "Spring start" : "Lay-up",
    year: 2026,
    steps: [
      { id: "a", label: "Drains", why: "they burst", caution: "" },
      { id: "b", label: "Battery off", why: "nobody starts it", caution: "", by: "Ide", at: "2026-03-01T10:00:00Z" },
    ],
  }));
  it("is ticked and unticked step by step", async () => {
    const onSay = says();
    show(<Seasons engine="e" seasons={seasons} onSay={onSay} />, { catalogue: stationsOf() });
    await tap(/^Spring start/);
    expect(screen.getByRole("status")).toHaveTextContent("1 of 2 done");
    await tap("Tick: Drains");
    await tap("Done: Battery off");
    expect(onSay.mock.calls.map((c) => c[1].upkeep)).toEqual([
      { do: "tick", list: "spring", year: 2026, step: "a" },
      { do: "untick", list: "spring", year: 2026, step: "b" },
    ]);
  });
});

describe("the year of due work", () => {
  const at = (state: string, when?: string) => due({ item: `${state}${when}`, state: state as never, when });
  const items = [at("overdue", "2026-03-01"), at("soon", "2026-05-20"), at("later", "2027-04-02"), at("unknown")];
  it("counts what is overdue, and each of the twelve months from now", () => {
    const year = yearFrom("2026-05-04", items);
    expect(year.map((s) => s.id).slice(0, 3)).toEqual(["overdue", "2026-05", "2026-06"]);
    expect(year).toHaveLength(13);
    expect(year.filter((s) => s.count > 0).map((s) => [s.id, s.count])).toEqual([
      ["overdue", 1],
      ["2026-05", 1],
      ["2027-04", 1],
    ]);
  });
  it("puts together what lies behind one access, each item once, and the rest after it", () => {
    const [a, b, c] = ["a", "b", "c"].map((item) => due({ item }));
    if (!a || !b || !c) throw new Error("three");
    const groups = [
      { key: "cover", label: "Cover off", items: ["a", "c"] },
      { key: "ashore", label: "Ashore", items: ["b", "c"] },
    ];
    expect(grouped([a, b, c], groups).map((g) => [g.label, g.items.map((i) => i.item)])).toEqual([
      ["Cover off", ["a", "c"]],
      ["Each by itself", ["b"]],
    ]);
    expect(grouped([b], groups)[0]?.label).toBe("");
  });
});
