import { act, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { newID } from "../../api/ids";
import { condition, hands, item, jobOf, show, stateOf, stationsOf } from "../../testing/show";
import { wordsOf } from "../../ui/words";
import { Banner } from "../../ui/job/JobBanner";
import type { Act, TeardownAct } from "../../ui/job/teardown";
import { OnList } from "./OnList";
import { PieceLedger } from "../../ui/job/PieceLedger";
import { asked, link } from "../../api/link";
import { StartList, type Keep } from "../../ui/job/StartList";
import { unkeptOf } from "../../ui/unkept";
import { Tighten } from "./Tighten";
import { WheelBench } from "./Wheel";

const words = wordsOf(stationsOf(["raw-pump", "Raw-water pump"], ["gear-cooler", "Gear-oil cooler"]));
const acts = () => vi.fn<Act>();
const tap = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));

describe("what is isolated", () => {
  it("stands in large letters, with since when and by whom", () => {
    const at = "2026-05-18T10:18:00Z";
    const isolated = [
      { id: "battery", banner: "BATTERY OFF", by: "Tam", at, words: "", litres: 0 },
      { id: "seacock", banner: "SEACOCK SHUT", by: "Ide", at, words: "", litres: 0 },
    ];
    show(<Banner page={jobOf({ hands: hands({ isolated }) })} />);
    expect(screen.getByRole("note", { name: "State of the engine" })).toHaveTextContent(
      /BATTERY OFF · SEACOCK SHUTsince .*, Ide/,
    );
  });
  it("is silent when nothing is", () => {
    show(<Banner page={jobOf({ hands: hands() })} />);
    expect(screen.queryByRole("note")).toBeNull();
  });
});

describe("the impeller", () => {
  it("is a wheel whose blades are tapped, one after the other", async () => {
    const onAct = acts();
    show(<WheelBench job={newID()} hands={hands()} onAct={onAct} />);
    await tap("Blade 2: sound");
    await tap("gone");
    await tap("half torn off"); // of the next blade
    await tap("Hub or key slips");
    await userEvent.type(screen.getByLabelText("Hours it has run"), "240");
    await tap("Save the impeller");
    const wheel = onAct.mock.calls[0]?.[0].wheel;
    expect(wheel?.blades.map((b) => b.state)).toEqual(["sound", "gone", "torn", ...Array<string>(5).fill("sound")]);
    expect(wheel).toMatchObject({ hub_slips: true, scored: false, hours: 240 });
    expect(wheel?.blades[2]?.share).toBe(0.5);
  });
  it("is there again after the pane was left, until it is saved", async () => {
    const onAct = acts();
    const bench = <WheelBench job="left" hands={hands()} onAct={onAct} />;
    const { unmount } = show(bench);
    await tap("Blade 2: sound");
    await tap("gone");
    unmount();
    expect(unkeptOf("left")).toEqual(["The impeller"]);
    show(bench);
    expect(screen.getByRole("button", { name: "Blade 2: gone" })).toBeInTheDocument();
    await tap("Save the impeller");
    expect(unkeptOf("left")).toEqual([]);
  });
  it("has as many blades as it has, and is reached by the keyboard", async () => {
    const onAct = acts();
    show(<WheelBench job={newID()} hands={hands()} onAct={onAct} />);
    await tap("Blades: more");
    screen.getByRole("button", { name: "Blade 9: sound" }).focus();
    await userEvent.keyboard("{Enter}");
    await tap("cracked");
    await tap("Save the impeller");
    expect(onAct.mock.calls[0]?.[0].wheel?.blades[8]?.state).toBe("cracked");
  });
});

describe("the rubber", () => {
  const open = hands({
    wheel: { blades: [] },
    ledger: {
      missing: 1.5,
      found: 0,
      old: 0,
      at_large: 1.5,
      over: 0,
      closed: "",
      say: "1.50 unaccounted for",
      open: true,
      pieces: [],
    },
    hunt: [
      { station: "raw-pump", say: "in the housing", crumbs: false, looked: false },
      { station: "gear-cooler", say: "on its inlet face", crumbs: true, looked: true },
    ],
  });
  it("is found in a place, as large as it is, of this impeller or an earlier one", async () => {
    const onAct = acts();
    show(<PieceLedger hands={open} words={words} onAct={onAct} />);
    expect(screen.getByRole("region", { name: "Pieces" })).toHaveTextContent("1.50 unaccounted for.");
    await tap("Found a piece: Raw-water pump");
    await tap("of an earlier impeller");
    await tap("half");
    expect(onAct).toHaveBeenCalledWith(
      { do: "piece", item: "raw-pump", piece: { share: 0.5, old: true } },
      "Piece saved",
    );
    await tap("Searched, nothing: Raw-water pump");
    expect(onAct).toHaveBeenLastCalledWith({ do: "looked", item: "raw-pump" }, "Raw-water pump: searched");
    expect(screen.queryByRole("button", { name: "Searched, nothing: Gear-oil cooler" })).toBeNull();
  });
  it("stands beside the place where it was found", () => {
    const pieces = [
      { share: 0.9, old: false, station: "gear-cooler" },
      { share: 0.4, old: true, station: "gear-cooler" },
    ];
    show(<PieceLedger hands={{ ...open, ledger: { ...open.ledger, pieces } }} words={words} onAct={acts()} />);
    expect(screen.getByText("Found here, in blades: 0.90, 0.40 of an earlier impeller")).toBeInTheDocument();
  });
  it("is given up only in writing", async () => {
    const onAct = acts();
    show(<PieceLedger hands={open} words={words} onAct={onAct} />);
    expect(screen.getByRole("button", { name: "End it" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("End the hunt, because"), "Flushed twice");
    await tap("End it");
    expect(onAct).toHaveBeenCalledWith({ do: "pieces-closed", words: "Flushed twice" }, "Hunt ended");
  });
});

describe("putting it back", () => {
  const key = item({ key: "t/key", off: 1, still_off: 1 }, { label: "Key" });
  const seal = item({ key: "t/seal", off: 1, still_off: 1 }, { kind: "seal", label: "Gasket", where: "pump cover" });
  const hose = item({ key: "t/hose", off: 1, still_off: 1 }, { kind: "hose", label: "Hose end", below: true });
  const page = jobOf({ hands: hands({ items: [key, seal, hose], rebuild: ["t/hose", "t/seal", "t/key"] }) });
  it("goes backwards, the last that came off first", () => {
    show(<OnList page={page} onAct={acts()} />);
    const list = screen.getByRole("region", { name: "Still off" }).textContent;
    expect(list.indexOf("Hose end")).toBeLessThan(list.indexOf("Gasket"));
    expect(list.indexOf("Gasket")).toBeLessThan(list.indexOf("Key"));
  });
  it("takes a new seal at a tap, an old one only with a reason", async () => {
    const onAct = acts();
    show(<OnList page={page} onAct={onAct} />);
    await tap("Gasket: reuse");
    expect(onAct).not.toHaveBeenCalled();
    expect(screen.getByRole("button", { name: "Reuse it" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("Why the old seal goes back"), "moulded, sound");
    await tap("Reuse it");
    expect(onAct).toHaveBeenLastCalledWith(
      { do: "on", item: "t/seal", count: 1, state: "reused", words: "moulded, sound" },
      "Gasket on",
    );
    await tap("Gasket: new on");
    expect(onAct).toHaveBeenLastCalledWith({ do: "on", item: "t/seal", count: 1, state: "new" }, "Gasket on");
  });
  it("puts a hose's clamps down with it: two below the waterline", async () => {
    const onAct = acts();
    show(<OnList page={page} onAct={onAct} />);
    await tap("2 clamps");
    await tap("chafe protected");
    await tap("Hose end: the old one back");
    expect(onAct.mock.calls[0]?.[0]).toMatchObject({ clamps: 2, reach: false, chafe: true, state: "reused" });
  });
});

describe("tightening", () => {
  const screws = (pass: number) =>
    item(
      { key: "t/s", pass, order: [1, 3, 2, 4], places: [0, 1, 2, 3].map((i) => ({ x: i / 3, y: 0 })) },
      { kind: "fasteners", label: "Screws", count: 4, torque_nm: 8, left_hand: true },
    );
  it("is drawn in its order, pass by pass, with the figure where there is one", async () => {
    const onAct = acts();
    const { unmount } = show(<Tighten item={screws(1)} onAct={onAct} />);
    expect(screen.getByRole("img", { name: "In this order: 1, 3, 2, 4" })).toBeInTheDocument();
    expect(screen.getByText(/8 Nm. Left-hand thread/)).toBeInTheDocument();
    await tap("Pass done");
    expect(onAct).toHaveBeenCalledWith({ do: "tighten", item: "t/s", pass: 2 }, "Screws: half");
    unmount();
    show(<Tighten item={screws(3)} onAct={onAct} />);
    expect(screen.getByText("All passes done")).toBeInTheDocument();
  });
});

describe("before the start", () => {
  const shut = condition({
    id: "seacock",
    label: "Seacock open",
    why: "seacock shut, by Ide",
    settle: "lift",
    item: "seacock",
    stands: true,
  });
  const parts = condition({
    id: "seals-matched",
    label: "All seals replaced",
    why: "1 off, 0 on",
    settle: "",
    item: "",
  });
  it("shows what stands in the way, and each is settled at a touch or where it belongs", async () => {
    const onKeep = vi.fn<Keep>();
    const onPane = vi.fn();
    const cover = condition({ id: "open:c", label: "Pump cover off", why: "since 9", settle: "access", item: "c" });
    const key = condition({
      id: "off:k",
      label: "Key",
      why: "still off",
      settle: "on",
      item: "k",
      state: "reused",
      count: 1,
    });
    show(
      <StartList
        page={jobOf({ hands: hands({ conditions: [shut, parts, condition({}), cover, key] }) })}
        {...{ onKeep, onPane }}
      />,
    );
    const list = screen.getByRole("region", { name: "Before the start" });
    expect(within(list).getByRole("status")).toHaveTextContent("Not ready: 5 things open");
    expect(within(list).getByText("seacock shut, by Ide")).toBeInTheDocument();
    expect(screen.getByRole("button", { name: "Engine started" })).toBeDisabled();
    const sent = (strip: TeardownAct, label: string) =>
      expect(onKeep).toHaveBeenLastCalledWith({ kind: "strip", strip }, label);
    await tap("Seacock open: Seacock open");
    sent({ do: "lift", item: "seacock" }, "Seacock open");
    await tap("Confirm: Blower");
    sent({ do: "tick", item: "blower" }, "Blower");
    await tap("Closed up again: Pump cover off");
    expect(onKeep).toHaveBeenLastCalledWith({ kind: "access", access: "c", open: false }, "Pump cover off");
    await tap("It is back on: Key");
    sent({ do: "on", item: "k", state: "reused", count: 1 }, "Key");
    await tap("Go there: All seals replaced");
    expect(onPane).toHaveBeenCalledWith("seals-matched");
  });
  it("is passed over only in writing, and for what stands there now", async () => {
    const onKeep = vi.fn<Keep>();
    show(<StartList page={jobOf({ hands: hands({ conditions: [parts] }) })} onKeep={onKeep} onPane={vi.fn()} />);
    await tap("Pass over: All seals replaced");
    expect(screen.getByRole("button", { name: "Pass over" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("Started all the same, because"), "Key lost");
    await tap("Pass over");
    expect(onKeep).toHaveBeenCalledWith(
      { kind: "strip", strip: { do: "override", item: "seals-matched", words: "Key lost", against: "1 off, 0 on" } },
      "Passed over: All seals replaced",
    );
  });
  it("asks for the seacock, and takes that it ran just now where nothing known stands in the way", async () => {
    const onKeep = vi.fn<Keep>();
    const asked = { ...shut, why: "nobody said so yet", stands: false };
    const { unmount } = show(
      <StartList page={jobOf({ hands: hands({ conditions: [asked] }) })} onKeep={onKeep} onPane={vi.fn()} />,
    );
    await tap("Ran just now, nothing opened since");
    expect(onKeep).toHaveBeenCalledWith({ kind: "strip", strip: { do: "ran" } }, "Ran just now, nothing opened since");
    unmount();
    show(<StartList page={jobOf({ hands: hands({ conditions: [shut] }) })} onKeep={onKeep} onPane={vi.fn()} />);
    expect(screen.queryByRole("button", { name: /Ran just now/ })).toBeNull();
  });
  it("says in so many words that it must not be cranked, and asks for the cause of milky oil", async () => {
    const onKeep = vi.fn<Keep>();
    const oil = condition({
      id: "oil",
      label: "Oil changed",
      why: "milky",
      settle: "oil",
      item: "changed",
      asks_words: true,
    });
    const state = stateOf({ may_crank: { ok: false, reasons: [oil] } });
    show(<StartList page={jobOf({ state, hands: hands({ conditions: [oil] }) })} onKeep={onKeep} onPane={vi.fn()} />);
    expect(screen.getByRole("alert")).toHaveTextContent("Do not even crank it: milky.");
    await tap("Changed, and why: Oil changed");
    await userEvent.type(screen.getByLabelText("What the cause was, and who cleared it"), "cooler");
    await tap("Changed, and why");
    expect(onKeep).toHaveBeenCalledWith(
      { kind: "strip", strip: { do: "oil", item: "changed", words: "cooler" } },
      "Oil changed",
    );
  });
  it("lets it be started once all is so, and begins the run whose clock watches for the water", async () => {
    const onKeep = vi.fn<Keep>();
    const conditions = [condition({ ok: true, why: "" })];
    show(<StartList page={jobOf({ hands: hands({ conditions, ready: true }) })} onKeep={onKeep} onPane={vi.fn()} />);
    await tap("Engine started");
    expect(onKeep.mock.calls.map(([e]) => e.proving?.do ?? e.strip?.do)).toEqual(["begin", "start"]);
  });

  it("never says ready without a link: nobody knows what was opened since", async () => {
    const page = jobOf({ hands: hands({ conditions: [condition({ ok: true })], ready: true }) });
    const { unmount } = show(<StartList page={page} onKeep={vi.fn()} onPane={vi.fn()} />);
    expect(screen.getByText("Ready to start")).toBeInTheDocument();
    unmount();
    const answered = globalThis.fetch;
    globalThis.fetch = () => Promise.reject(new TypeError("no link"));
    await expect(asked("/api/v1/health")).rejects.toThrow();
    const without = show(<StartList page={page} onKeep={vi.fn()} onPane={vi.fn()} />);
    expect(screen.queryByText("Ready to start")).toBeNull();
    expect(screen.getByText(/Not known to be ready/)).toBeInTheDocument();
    without.unmount();
    globalThis.fetch = () => Promise.resolve(new Response());
    await asked("/api/v1/health"); // the link is back, and what was done without it has not come together yet
    globalThis.fetch = answered;
    show(<StartList page={page} onKeep={vi.fn()} onPane={vi.fn()} />);
    expect(screen.queryByText("Ready to start")).toBeNull();
    act(() => link.together());
    expect(screen.getByText("Ready to start")).toBeInTheDocument();
  });
});
