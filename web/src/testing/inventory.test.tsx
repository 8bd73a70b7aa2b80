import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import * as client from "../api/client";
import type { Schemas } from "../api/client";
import { PartsUsed } from "../features/teardown/PartsUsed";
import { hands, show } from "./show";
import { ImpellerFit } from "../features/inventory/ImpellerFit";
import { PartForm } from "../features/inventory/PartForm";
import { amount, fitsSaid, numberOf, type OnShelf, type InventoryLine } from "../ui/inventory";
import { InventoryRow } from "../features/inventory/InventoryRow";

const acts = () => vi.fn<OnShelf>().mockResolvedValue(true);
const tap = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));

const line = (over: Partial<InventoryLine> = {}, is: Partial<Schemas["Part"]> = {}): InventoryLine => ({
  id: "p",
  is: {
    label: "Impeller",
    number: "LM-2052",
    where: "Drawer 3",
    minimum: 2,
    fits: [{ engine: "e", how: "tried" }],
    ...is,
  },
  have: 1,
  coming: 0,
  orders: [],
  wrong: [],
  kept: "k1",
  ...over,
});

describe("amounts", () => {
  it("are read with a comma or a point and shown without needless noughts", () => {
    expect(numberOf("2,5")).toBe(2.5);
    expect(numberOf(" 3 ")).toBe(3);
    expect(numberOf("")).toBeUndefined();
    expect(numberOf("many")).toBeUndefined();
    expect(amount(2.5, "L")).toBe("2.5\u00a0L");
    expect(amount(3)).toBe("3");
  });
});

describe("a part in stock", () => {
  it("says where it lies, what it fits and how that is known", () => {
    show(<InventoryRow line={line()} names={{ engines: { e: "Skiff, Main" }, pumps: {} }} onAct={acts()} />);
    const row = screen.getByRole("article", { name: "Impeller" });
    expect(row).toHaveTextContent("LM-2052, lies at Drawer 3");
    expect(row).toHaveTextContent("Tried on Skiff, Main");
    expect(row).toHaveTextContent("least 2");
  });
  it("says which pump it fits and who has it, the rest only counted", () => {
    const fits = [
      { pump: "P65", how: "measured" as const },
      { pump: "P95", how: "listed" as const },
    ];
    const names = { engines: {}, pumps: { P65: ["A, Main", "B, Main", "C, Port", "C, Starboard", "D, Main"] } };
    show(<InventoryRow line={line({}, { fits })} names={names} onAct={acts()} />);
    expect(screen.getByRole("article", { name: "Impeller" })).toHaveTextContent(
      "Measured for pump P65 (A, Main; B, Main; C, Port; 2 more)",
    );
    expect(screen.getByText("Only listed for pump P95 (on no engine here)")).toBeInTheDocument();
  });
  it("does not name an engine by its pump again", () => {
    const fits = [
      { engine: "e", how: "tried" as const },
      { pump: "P65", how: "measured" as const },
    ];
    const names = { engines: { e: "Skiff, Main" }, pumps: { P65: ["Skiff, Main", "Punt, Main"] } };
    expect(fitsSaid(fits, names)).toEqual(["Tried on Skiff, Main", "Measured for pump P65 (Punt, Main)"]);
    expect(fitsSaid(fits, { ...names, pumps: { P65: ["Skiff, Main"] } })[1]).toBe("Measured for pump P65");
    expect(fitsSaid([{ engine: "gone", how: "listed" }], names)).toEqual([
      "Only listed for an engine that was taken away",
    ]);
  });
  it("says how many to order and why", () => {
    const need = { part: "p", quantity: 2, reasons: ["1 here, the least is 2", "Skiff, Main: due 1 June 2026"] };
    show(<InventoryRow line={line()} need={need} names={{ engines: {}, pumps: {} }} onAct={acts()} />);
    expect(screen.getByText("To order 2: 1 here, the least is 2; Skiff, Main: due 1 June 2026.")).toBeInTheDocument();
  });
  it("is received in one touch", async () => {
    const onAct = acts();
    const orders = [
      {
        id: "o",
        number: "LM-2052",
        quantity: 3,
        left: 2,
        price: 30,
        by: "Ide",
        at: "2026-05-01T08:00:00Z",
        due: "2026-05-04",
      },
    ];
    show(<InventoryRow line={line({ orders, coming: 2 })} names={{ engines: {}, pumps: {} }} onAct={onAct} />);
    expect(screen.getByText(/2 of LM-2052 on the way, by 4 May 2026 \(Ide\)/)).toBeInTheDocument();
    await tap("They are here");
    expect(onAct).toHaveBeenCalledWith(
      { do: "receive", part: "p", order: "o", quantity: 2 },
      "Received: 2 of Impeller",
    );
  });
  it("is counted by stepping", async () => {
    const onAct = acts();
    show(<InventoryRow line={line()} names={{ engines: {}, pumps: {} }} onAct={onAct} />);
    await tap("Count");
    await tap("Counted: more");
    await tap("So many lie there");
    expect(onAct.mock.calls[0]?.[0]).toEqual({ do: "count", part: "p", quantity: 2 });
  });
  it("shows what was ordered wrong, and takes what is wrong now off the count", async () => {
    const onAct = acts();
    const wrong = [{ words: "a spline, not a key", number: "LM-2060", by: "Tam", at: "2026-05-01T08:00:00Z" }];
    show(<InventoryRow line={line({ wrong })} names={{ engines: {}, pumps: {} }} onAct={onAct} />);
    expect(screen.getByText(/Ordered wrong before: a spline, not a key/)).toBeInTheDocument();
    await tap("It was the wrong one");
    expect(screen.getByRole("button", { name: "Note it" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("What was wrong with it"), "too wide");
    await tap("Note it");
    expect(onAct.mock.calls[0]?.[0]).toEqual({
      do: "wrong",
      part: "p",
      words: "too wide",
      quantity: 1,
      number: "LM-2052",
    });
  });
  it("is looked for at the supplier by its words where it has no number", async () => {
    const items = [
      {
        number: "LM-2051",
        label: "Impeller",
        price: 34,
        stock: 6,
        lead_days: 3,
        made_days: 21,
        upkeep: "",
        replaced_by: "LM-2052",
      },
    ];
    const onAct = acts();
    show(<InventoryRow line={line({}, { number: "" })} names={{ engines: {}, pumps: {} }} onAct={onAct} />, {
      supplier: { items },
    });
    await tap("Order");
    expect(screen.getByLabelText("At the supplier: number or words")).toHaveValue("Impeller");
  });
});

const catalogue = {
  upkeep: [
    { id: "impeller", label: "Impeller" },
    { id: "anode", label: "Exchanger anode" },
  ],
  impeller: { drives: ["key", "single-flat"], inserts: ["brass"], cover_seals: ["o-ring"] },
};
const yard = {
  craft: [
    {
      craft: { id: "c", name: "Skiff" },
      engines: [
        { engine: { id: "e", name: "Main", raw_pump: "P65" } },
        { engine: { id: "f", name: "Wing", raw_pump: "" } },
      ],
    },
  ],
};
const choose = async (label: string, option: string) => {
  await userEvent.click(screen.getByRole("combobox", { name: label }));
  await userEvent.click(screen.getByRole("option", { name: option }));
};

describe("the form of a part", () => {
  const form = (over: { line?: InventoryLine; onAct?: OnShelf } = {}) => {
    const onAct = over.onAct ? vi.fn(over.onAct) : acts();
    const onClose = vi.fn();
    show(<PartForm {...(over.line && { line: over.line })} onAct={onAct} onClose={onClose} />, { yard, catalogue });
    return { onAct, onClose };
  };
  it("keeps a new part, with what is left empty as nothing", async () => {
    const { onAct, onClose } = form();
    expect(screen.getByRole("button", { name: "Save" })).toBeDisabled();
    await userEvent.type(screen.getByRole("textbox", { name: /What it is/ }), "Anode");
    await userEvent.type(screen.getByLabelText("The least to have"), "2,5");
    await tap("Save");
    const is = onAct.mock.calls[0]?.[0].is;
    expect(onAct.mock.calls[0]?.[0]).not.toHaveProperty("seen");
    expect(is).toMatchObject({ label: "Anode", minimum: 2.5, price: 0, fits: [] });
    expect(is).not.toHaveProperty("impeller");
    expect(is).not.toHaveProperty("gone");
    expect(onClose).toHaveBeenCalled();
  });
  it("changes a part and leaves the rest alone", async () => {
    const impeller = { outside_diameter_mm: 65 };
    const { onAct } = form({ line: line({}, { impeller, price: 36.9, unit: "set" }) });
    await userEvent.type(screen.getByLabelText("Where it lies"), ", left");
    await tap("Save");
    expect(onAct.mock.calls[0]?.[0]).toMatchObject({
      part: "p",
      seen: "k1",
      is: { where: "Drawer 3, left", impeller, price: 36.9, unit: "set", fits: [{ engine: "e", how: "tried" }] },
    });
  });
  it("takes an impeller's measures, its price and what it is counted in", async () => {
    const { onAct } = form();
    await userEvent.type(screen.getByRole("textbox", { name: /What it is/ }), "Impeller");
    expect(screen.queryByLabelText("Bore, mm")).not.toBeInTheDocument();
    await choose("Used for", "Impeller");
    await userEvent.type(screen.getByLabelText("Outside, mm"), "65");
    await userEvent.type(screen.getByLabelText("Bore, mm"), "15,9");
    await userEvent.type(screen.getByLabelText("Blades"), "10");
    await choose("Drive", "single flat");
    await userEvent.type(screen.getByLabelText("Price each"), "36,90");
    await tap("Save");
    expect(onAct.mock.calls[0]?.[0].is).toMatchObject({
      upkeep: "impeller",
      price: 36.9,
      impeller: { outside_diameter_mm: 65, bore_mm: 15.9, blades: 10, drive: "single-flat" },
    });
  });
  it("does not keep words where figures belong", async () => {
    form({ line: line() });
    await userEvent.type(screen.getByLabelText("Price each"), "dear");
    expect(screen.getByText("A number, 0 or more")).toBeInTheDocument();
    expect(screen.getByRole("button", { name: "Save" })).toBeDisabled();
  });
  it("fits an engine or every engine with a pump, and says how that is known", async () => {
    const { onAct } = form({ line: line({}, { fits: [] }) });
    await choose("An engine", "Skiff, Wing");
    await tap("It fits: measured");
    expect(screen.getByText("Skiff, Wing: measured")).toBeInTheDocument();
    await choose("A raw-water pump, by its plate", "P65");
    await tap("It fits: tried");
    await userEvent.type(screen.getByRole("combobox", { name: "A raw-water pump, by its plate" }), "X 9");
    expect(screen.getByRole("button", { name: "Save" }), "a pump typed but not said how: not lost").toBeDisabled();
    await tap("It fits: only listed");
    await tap("Take away: Skiff, Wing");
    await tap("Save");
    expect(onAct.mock.calls[0]?.[0].is?.fits).toEqual([
      { pump: "P65", how: "tried" },
      { pump: "X 9", how: "listed" },
    ]);
  });
  it("stays open with all that was typed when it is refused", async () => {
    const { onClose } = form({ line: line(), onAct: () => Promise.resolve(false) });
    await userEvent.type(screen.getByLabelText("Where it lies"), ", left");
    await tap("Save");
    expect(onClose).not.toHaveBeenCalled();
    expect(screen.getByLabelText("Where it lies")).toHaveValue("Drawer 3, left");
  });
  it("takes a part off the inventory that is not kept any more", async () => {
    const { onAct, onClose } = form({ line: line() });
    await tap("Not kept any more");
    expect(onAct.mock.calls[0]?.[0]).toMatchObject({ do: "keep", part: "p", is: { gone: true, label: "Impeller" } });
    expect(onClose).toHaveBeenCalled();
  });
});

describe("which impeller fits", () => {
  const answers: Schemas["Fittings"]["list"] = [
    { name: "Impeller 65", fit: "may-fit", reasons: ["the drive is not known on both: look"] },
    { name: "Impeller 95", fit: "does-not-fit", reasons: ["the width is 12 mm larger"] },
  ];
  const compare = async (list: typeof answers) => {
    const ask = vi.spyOn(client, "fitImpeller").mockResolvedValue({ list });
    show(<ImpellerFit />, { catalogue });
    await tap("Which impeller fits?");
    expect(screen.getByRole("button", { name: "Compare" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("Outside, mm"), "65,1");
    await userEvent.type(screen.getByLabelText("Width, mm"), "wide");
    expect(screen.getByRole("button", { name: "Compare" })).toBeDisabled();
    await userEvent.clear(screen.getByLabelText("Width, mm"));
    await tap("Compare");
    expect(ask).toHaveBeenCalledWith({ outside_diameter_mm: 65.1 });
    ask.mockRestore();
  };
  it("shows what may, with the rest counted until it is asked for", async () => {
    await compare(answers);
    expect(await screen.findByText("May fit: Impeller 65")).toBeInTheDocument();
    expect(screen.queryByText(/12 mm larger/)).not.toBeInTheDocument();
    await tap("1 does not fit: show why");
    expect(screen.getByText("the width is 12 mm larger")).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText("Blades"), "10");
    expect(screen.queryByText("May fit: Impeller 65"), "another old one: ask again").not.toBeInTheDocument();
  });
  it("says so when nothing fits, or nothing is measured", async () => {
    await compare(answers.slice(1));
    expect(await screen.findByText("Nothing that was compared fits.")).toBeInTheDocument();
  });
  it("says so when no impeller has its measures down", async () => {
    await compare([]);
    expect(await screen.findByText(/has its measures down/)).toBeInTheDocument();
  });
});

describe("parts taken for a job", () => {
  const used = (lines: InventoryLine[], fitting: InventoryLine[]) => {
    const onAct = vi.fn();
    const cache = { inventory: { lines, to_order: [], engines: {}, pumps: {} }, "inventory,e": { lines: fitting } };
    show(<PartsUsed job="j" hands={hands()} engine="e" onAct={onAct} />, cache);
    return onAct;
  };
  it("are those that fit it, with one touch", async () => {
    const onAct = used([], [line({}, { price: 36.9 })]);
    await tap("Take one: Impeller");
    expect(onAct.mock.calls[0]?.[0]).toEqual({
      do: "used",
      used: { label: "Impeller", quantity: 1, state: "new", stock: "p", part_number: "LM-2052", price: 36.9 },
    });
  });
  it("are found by words when they fit anything, and taken by the litre", async () => {
    const coolant = line({ id: "c", have: 25 }, { label: "Coolant concentrate", unit: "L", number: "", fits: [] });
    const onAct = used([coolant, line()], [line()]);
    const find = screen.getByLabelText("Something else in stock");
    await userEvent.type(find, "impeller");
    expect(screen.getByText("Nothing like that lies there")).toBeInTheDocument();
    await userEvent.clear(find);
    await userEvent.type(find, "coolant");
    const much = screen.getByLabelText("How much: Coolant concentrate");
    await userEvent.clear(much);
    expect(screen.getByRole("button", { name: "Take: Coolant concentrate" })).toBeDisabled();
    await userEvent.type(much, "2,5");
    await tap("Take: Coolant concentrate");
    expect(onAct.mock.calls[0]?.[0]).toMatchObject({ used: { quantity: 2.5, stock: "c" } });
  });
});
