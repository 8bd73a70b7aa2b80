import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { condition, hands, item } from "../../testing/show";
import { isolationsOf, itemState, stillOff, withWaitingActs, type TeardownItem } from "./teardown";

const handsWith = (items: TeardownItem[]) => hands({ items, conditions: [condition({})] });

describe("what came off", () => {
  it("says how an item stands", () => {
    expect(itemState(item({}))).toBe("not off");
    expect(itemState(item({}, { count: 6 }))).toBe("6 usually");
    expect(itemState(item({ off: 6 }, { count: 6 }))).toBe("6 off");
    expect(itemState(item({ off: 6, reused: 4 }, { count: 6 }))).toBe("4 of 6 back");
    expect(itemState(item({ off: 6, new: 2, reused: 4 }))).toBe("all 6 back");
    expect(itemState(item({ off: 1, new: 2 }))).toBe("2 on, only 1 came off");
    expect(itemState(item({ off: 1, excused: "lost overboard" }))).toBe("stays off: lost overboard");
  });
  it("keeps what is still off in one line", () => {
    expect(stillOff(handsWith([item({})]))).toBe("No part is off");
    expect(
      stillOff(handsWith([item({ off: 1, still_off: 1 }), item({ off: 2, still_off: 2 }, { kind: "seal" })])),
    ).toBe("Still off: 1 part, 2 seals");
    expect(stillOff(handsWith([item({ off: 1, new: 1 })]))).toBe("Everything is back");
  });
  it("counts on without a link, each tap once", () => {
    const now = withWaitingActs(handsWith([item({ off: 1, still_off: 1 })]), [
      { do: "off", item: "t/a", count: 1 },
      { do: "on", item: "t/a", count: 1, state: "new" },
      { do: "off", item: "t/other", count: 5 },
      { do: "isolate", item: "seacock" },
      { do: "tick", item: "blower" },
    ]);
    expect(now.items[0]).toMatchObject({ off: 2, new: 1, still_off: 1 });
    expect(now.isolated.map((i) => i.banner)).toEqual(["SEACOCK SHUT"]);
    expect(now.conditions[0]?.ok).toBe(true);
    expect(withWaitingActs(now, [{ do: "lift", item: "seacock" }]).isolated).toEqual([]);
  });
  it("offers what this engine has to isolate", () => {
    const ids = (circuit: string[], family: "closed" | "direct") =>
      isolationsOf({ circuit, family } as Schemas["Engine"]).map((i) => i.id);
    expect(ids(["intake", "seacock"], "closed")).toEqual(["seacock", "battery", "coolant", "sensor", "anodes"]);
    expect(ids(["intake"], "direct")).toEqual(["leg-hose", "battery", "sensor", "anodes"]);
  });
});
