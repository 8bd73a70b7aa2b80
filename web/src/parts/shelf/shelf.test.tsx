import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { show } from "../testing/show";
import { PartForm } from "./PartForm";
import { amount, numberOf, type OnShelf, type ShelfLine } from "./shelf";
import { ShelfRow } from "./ShelfRow";

const acts = () => vi.fn<OnShelf>();
const tap = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));

const line = (over: Partial<ShelfLine> = {}, is: Partial<Schemas["ShelfPart"]> = {}): ShelfLine => ({
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

describe("a part on the shelf", () => {
  it("says where it lies, what it fits and how that is known", () => {
    show(<ShelfRow line={line()} engines={{ e: "Skiff, Main" }} onAct={acts()} />);
    const row = screen.getByRole("article", { name: "Impeller" });
    expect(row).toHaveTextContent("LM-2052, lies at Drawer 3");
    expect(row).toHaveTextContent("Fits Skiff, Main (tried)");
    expect(row).toHaveTextContent("least 2");
  });
  it("says how many to order and why", () => {
    const need = { part: "p", quantity: 2, reasons: ["1 here, the least is 2", "Skiff, Main: due 1 June 2026"] };
    show(<ShelfRow line={line()} need={need} engines={{}} onAct={acts()} />);
    expect(screen.getByText("To order: 2. 1 here, the least is 2. Skiff, Main: due 1 June 2026.")).toBeInTheDocument();
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
    show(<ShelfRow line={line({ orders, coming: 2 })} engines={{}} onAct={onAct} />);
    expect(screen.getByText(/2 of LM-2052 on the way, by 4 May 2026 \(Ide\)/)).toBeInTheDocument();
    await tap("They are here");
    expect(onAct).toHaveBeenCalledWith(
      { do: "receive", part: "p", order: "o", quantity: 2 },
      "Received: 2 of Impeller",
    );
  });
  it("is counted by stepping", async () => {
    const onAct = acts();
    show(<ShelfRow line={line()} engines={{}} onAct={onAct} />);
    await tap("Count");
    await tap("Counted: more");
    await tap("So many lie there");
    expect(onAct.mock.calls[0]?.[0]).toEqual({ do: "count", part: "p", quantity: 2 });
  });
  it("shows what was ordered wrong, and takes what is wrong now off the count", async () => {
    const onAct = acts();
    const wrong = [{ words: "a spline, not a key", number: "LM-2060", by: "Tam", at: "2026-05-01T08:00:00Z" }];
    show(<ShelfRow line={line({ wrong })} engines={{}} onAct={onAct} />);
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
    show(<ShelfRow line={line({}, { number: "" })} engines={{}} onAct={onAct} />, { supplier: { items } });
    await tap("Order");
    expect(screen.getByLabelText("At the supplier: number or words")).toHaveValue("Impeller");
  });
});

describe("the form of a part", () => {
  it("keeps a new part, with what is left empty as nothing", async () => {
    const onAct = acts();
    const onClose = vi.fn();
    show(<PartForm onAct={onAct} onClose={onClose} />, { yard: { craft: [] } });
    expect(screen.getByRole("button", { name: "Keep" })).toBeDisabled();
    await userEvent.type(screen.getByRole("textbox", { name: /What it is/ }), "Anode");
    await userEvent.type(screen.getByLabelText("The least to have"), "2,5");
    await tap("Keep");
    expect(onAct.mock.calls[0]?.[0]).toMatchObject({ do: "keep", is: { label: "Anode", minimum: 2.5, fits: [] } });
    expect(onClose).toHaveBeenCalled();
  });
  it("changes a part and leaves what it does not show alone", async () => {
    const onAct = acts();
    const impeller = { outside_diameter_mm: 65 };
    show(<PartForm line={line({}, { impeller })} onAct={onAct} onClose={vi.fn()} />, { yard: { craft: [] } });
    await userEvent.type(screen.getByLabelText("Where it lies"), ", left");
    await tap("Keep");
    expect(onAct.mock.calls[0]?.[0]).toMatchObject({
      part: "p",
      is: { where: "Drawer 3, left", impeller, fits: [{ engine: "e", how: "tried" }] },
    });
  });
});
