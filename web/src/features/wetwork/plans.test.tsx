import { act, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { hands, jobOf, show, stationsOf } from "../../testing/show";
import { unitsOf } from "../../ui/units";
import { wordsOf } from "../../ui/words";
import { CoolantPlanner, DescalePlanner, FlushPlanner } from "./Plans";
import type { WetworkItem } from "../../ui/job/wetwork";
import type { OnWet } from "../../ui/job/wetwork";
import { WorkView } from "./WorkView";

const catalogue = stationsOf(
  ["raw-pump", "Raw-water pump"],
  ["gear-cooler", "Gear-oil cooler"],
  ["exchanger", "Heat exchanger"],
  ["elbow", "Elbow"],
);
const words = wordsOf(catalogue);
const products = [
  { id: "p", label: "Phosphoric acid, 75 %", acid: "phosphoric" as const, stock_percent_mass: 75 },
  { id: "m", label: "Dock mix", parts_water: 4 },
];
const page = jobOf({
  hands: hands(),
  wet: {
    works: [],
    products,
    raw: ["raw-pump", "gear-cooler", "exchanger", "elbow"],
    scale_why: "from readings",
    scale_low_g: 204,
    scale_high_g: 611,
  },
});
const plan = (Planner: typeof FlushPlanner, refused: string[] = []) => {
  const onPlan = vi.fn();
  show(<Planner page={page} words={words} refused={refused} onPlan={onPlan} />);
  return onPlan;
};
const tap = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));
const type = (label: string, v: string) => userEvent.type(screen.getByLabelText(label, { exact: true }), v);

describe("the planners", () => {
  it("say how it stands before a flush; nothing is taken as done that was not tapped", async () => {
    const onPlan = plan(FlushPlanner, ["hose water floods the cylinders"]);
    expect(screen.getByRole("alert")).toHaveTextContent("Hose water floods the cylinders.");
    await tap("sand");
    await tap("exhaust hose off at the elbow");
    await tap("Plan it");
    expect(onPlan).toHaveBeenCalledWith({
      kind: "flush",
      flush: {
        station: "gear-cooler",
        debris: "sand",
        source: "hose",
        exhaust_off: true,
        both_off: false,
        impeller_out: false,
        silencer_drained: false,
        seacock_shut: false,
        by_the_pump: false,
        thermostat_open: false,
      },
    });
  });
  it("take the loop between pump and elbow, the scale from the readings, and no material that was not named", async () => {
    const onPlan = plan(DescalePlanner);
    await type("Bath in all, L", "18");
    await type("Tank holds, L", "25,5");
    await tap("Plan it");
    expect(onPlan).not.toHaveBeenCalled();
    expect(screen.getByRole("alert")).toHaveTextContent("Loop holds, L: say how much; 0 where there is none.");
    await type("Loop holds, L", "4");
    await type("Hoses hold, L", "3");
    await userEvent.click(
      within(screen.getByRole("group", { name: "Heat exchanger, made of" })).getByRole("button", {
        name: "copper alloy",
      }),
    );
    await tap("sand");
    await tap("Plan it");
    const sent = (onPlan.mock.calls[0] as [{ descale: Record<string, unknown> }])[0].descale;
    expect(sent).toMatchObject({
      place: "in-place",
      loop: ["gear-cooler", "exchanger"],
      materials: { "gear-cooler": [], exchanger: ["copper-alloy"] },
      anodes_out: false,
      bath_l: 18,
      tank_l: 25.5,
      target_percent_mass: 10,
      scale_low_g: 200,
      scale_high_g: 610,
      minutes: 60,
      mechanical: ["sand"],
    });
    expect(sent).not.toHaveProperty("pump_l_min");
  });
  it("take a coolant change by its volumes", async () => {
    const onPlan = plan(CoolantPlanner);
    await type("Block, L", "9");
    await tap("propylene");
    await tap(/^hybrid/);
    await tap("Plan it");
    expect(onPlan).not.toHaveBeenCalled();
    expect(screen.getByRole("alert")).toHaveTextContent("Heater branch, L: say how much");
    await type("Exchanger, L", "3");
    await type("Header, L", "1");
    await type("Heater branch, L", "0");
    await type("Vessel for the old, L", "15");
    await tap("Plan it");
    expect((onPlan.mock.calls[0] as [unknown])[0]).toMatchObject({
      kind: "coolant",
      coolant: {
        block_l: 9,
        heater_l: 0,
        glycol: "propylene",
        type: "hybrid",
        target_percent_volume: 45,
        concentrate_percent_volume: 100,
      },
    });
  });
});

const work = (over: Partial<WetworkItem>): WetworkItem => ({
  id: "w",
  kind: "descale",
  by: "Kit",
  planned: "2026-05-18T10:00:00Z",
  running: false,
  elapsed_s: 125,
  left_s: 3475,
  steps: [{ station: "exchanger", say: "from {gear-cooler}", minutes: 10 }],
  log: [],
  stages: [],
  missing: [],
  advice: [],
  balance: "",
  gains: [],
  gain_missing: "take a round now",
  out_l: 0,
  in_l: 0,
  ended: false,
  ...over,
});
const view = (over: Partial<WetworkItem>) => {
  const onAct = vi.fn<OnWet>();
  show(<WorkView job="j" work={work(over)} words={words} units={unitsOf([])} onAct={onAct} />, { catalogue });
  return onAct;
};

describe("a piece of wet work", () => {
  it("shows its steps in the trade's names, its clock, and begins and stops it", async () => {
    const onAct = view({});
    expect(screen.getByText(/from gear-oil cooler/)).toHaveTextContent("Heat exchanger: from gear-oil cooler (10 min)");
    expect(screen.getByRole("timer")).toHaveTextContent("2:05");
    expect(screen.getByText("57:55 to go")).toBeInTheDocument();
    await tap("Resume");
    expect(onAct).toHaveBeenCalledWith({ do: "begin" }, "Begun");
  });
  it("calls once when its time is up and the device can vibrate, and at each look before", () => {
    vi.useFakeTimers();
    const vibrate = vi.fn();
    vi.stubGlobal("navigator", Object.assign(Object.create(navigator), { vibrate }));
    try {
      view({ kind: "descale", running: true, elapsed_s: 595, left_s: 20 });
      act(() => void vi.advanceTimersByTime(4000));
      expect(vibrate).not.toHaveBeenCalled();
      act(() => void vi.advanceTimersByTime(2000));
      expect(vibrate.mock.calls).toEqual([[80]]); // ten minutes: look at the bath
      act(() => void vi.advanceTimersByTime(16000));
      expect(vibrate.mock.calls).toHaveLength(2);
      expect(vibrate.mock.calls[1]?.[0]).toEqual([400, 150, 400, 150, 400]);
      act(() => void vi.advanceTimersByTime(60_000));
      expect(vibrate.mock.calls).toHaveLength(2);
    } finally {
      vi.useRealTimers();
      vi.unstubAllGlobals();
    }
  });
  it("takes a look at the bath, and says what it means", async () => {
    const onAct = view({ advice: ["spent: add acid, or stop"] });
    expect(screen.getByRole("note")).toHaveTextContent("Spent: add acid, or stop.");
    await tap("weak fizz");
    await userEvent.type(screen.getByLabelText("pH strip"), "4,2");
    await userEvent.click(
      within(screen.getByRole("region", { name: "Read the bath" })).getByRole("button", { name: "Save" }),
    );
    expect(onAct).toHaveBeenCalledWith({ do: "read", bath: { ph: 4.2, fizz: "weak" } }, "Reading saved");
  });
  it("sends rubber that comes out of a flush with its size, for the ledger", async () => {
    const flush = { station: "exchanger", debris: "rubber" as const, source: "hose" as const };
    const onAct = view({ kind: "flush", flush });
    await tap("rubber");
    expect(onAct).not.toHaveBeenCalled();
    await tap("a quarter");
    expect(onAct).toHaveBeenCalledWith(
      { do: "came-out", what: "rubber", station: "exchanger", share: 0.25 },
      "Came out: rubber",
    );
  });
  it("calls a gain within its error none", () => {
    const gain = {
      label: "exchanger",
      before: 0.8,
      before_error: 0.08,
      after: 0.88,
      after_error: 0.07,
      change: 0.08,
      change_error: 0.11,
    };
    const gains = [
      { ...gain, better: false, worse: false },
      { ...gain, label: "raw flow", after: 1.2, change: 0.4, better: true, worse: false },
    ];
    view({ ended: true, gains });
    const region = screen.getByRole("region", { name: "Before and after" });
    expect(region).toHaveTextContent(
      "Exchanger 80 % → 88 % of healthy: no gain that the readings can tell (give or take 11 %).",
    );
    expect(region).toHaveTextContent("Raw flow 80 % → 120 % of healthy: better by 40 %, give or take 11 %.");
    expect(screen.queryByRole("timer")).toBeNull();
  });
  it("keeps asking for what is left undone after the bath", async () => {
    const onAct = view({ ended: true, missing: ["neutralised"] });
    await tap(/^Neutralised/);
    expect(onAct).toHaveBeenCalledWith({ do: "stage", what: "neutralised" }, "Neutralised before it went anywhere");
  });
});

describe("a flush at several places", () => {
  it("has a clock for each, and says which is begun", async () => {
    const flush = { station: "gear-cooler", also: ["exchanger"], debris: "rubber" as const, source: "hose" as const };
    const clocks = [{ station: "exchanger", running: true, elapsed_s: 65, left_s: 535 }];
    const onAct = view({ kind: "flush", flush, clocks });
    const names = screen.getAllByRole("region", { name: /^Clock: / });
    expect(names).toHaveLength(2);
    await userEvent.click(screen.getByRole("button", { name: /^(Begin|Resume): / }));
    expect(onAct).toHaveBeenLastCalledWith({ do: "begin", station: "gear-cooler" }, "Begun");
    await userEvent.click(screen.getByRole("button", { name: /^Pause: / }));
    expect(onAct).toHaveBeenLastCalledWith({ do: "stop", station: "exchanger" }, "Stopped");
  });
});
