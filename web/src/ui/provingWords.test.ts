import { describe, expect, it } from "vitest";
import type { ProvingAct } from "../api/client";
import { provingText } from "./provingWords";

const said = (v: number, unit: string) => (unit === "degC" ? `${v} °C` : `${v} ${unit}`);
const text = (a: Omit<ProvingAct, "run">) => provingText({ run: "r", ...a }, said);

describe("a line of a proving run", () => {
  it.each([
    [{ do: "begin", where: "afloat", how: "by-hand" }, "begun, by hand, afloat"],
    [{ do: "begin", where: "hose-leg" }, "begun, on a hose at the leg"],
    [{ do: "prime", water: true, seconds: 12 }, "water after 12 s"],
    [{ do: "prime", water: false, seconds: 30 }, "no water after 30 s"],
    [{ do: "look", stage: "hot-leaks", joint: "station/raw-pump", state: "drips" }, "last leak round, raw pump drips"],
    [{ do: "needle", gauge_c: 98, probe_c: 84, minutes: 14 }, "needle at 98 °C after 14 min, thermometer 84 °C"],
    [{ do: "load", minutes: 12, top_rpm: 3000 }, "12 min at speed, 3000 rev/min reached"],
    [{ do: "codes" }, "latched codes: none"],
    [{ do: "excuse", stage: "load", words: "in the shed" }, "load left out: in the shed"],
    [{ do: "sign", outcome: "tight" }, "signed as tight, not proved under load"],
  ] as [Omit<ProvingAct, "run">, string][])("%o", (act, say) => {
    expect(text(act)).toBe(`Proving run: ${say}`);
  });
});
