import { act, renderHook } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Words } from "../words";
import { actText } from "../wetworkWords";
import { clock, named, numberOf, useElapsed } from "./wetwork";

afterEach(() => vi.useRealTimers());

describe("wet work", () => {
  it("tells times as a clock does, over time with a plus", () => {
    expect(clock(0)).toBe("0:00");
    expect(clock(125)).toBe("2:05");
    expect(clock(3849)).toBe("1:04:09");
    expect(clock(-61)).toBe("+1:01");
  });
  it("puts the trade's names in a sentence", () => {
    const words = { station: (id: string) => (id === "gear-cooler" ? "Gear-oil cooler" : id) } as Words;
    expect(named("take {gear-cooler} out of the loop", words)).toBe("take gear-oil cooler out of the loop");
  });
  it("reads numbers as they are typed, and nothing as nothing", () => {
    expect([numberOf("4,5"), numberOf("0"), numberOf(" "), numberOf("x"), numberOf(undefined)]).toEqual([
      4.5,
      0,
      undefined,
      undefined,
      undefined,
    ]);
  });
  it("says each act", () => {
    const work = "w";
    const said = (v: number, unit: string) => `${v} ${unit === "degC" ? "°C" : unit}`;
    expect(actText({ do: "read", work, bath: { ph: 4.2, fizz: "weak", temp_c: 31, colour: "green" } }, said)).toBe(
      "pH 4.2, fizz weak, 31 °C, green",
    );
    expect(actText({ do: "drained", work, litres: 13 }, said)).toBe("13 L out");
    expect(actText({ do: "waste", work, what: "coolant", litres: 13, words: "drum" }, said)).toBe(
      "Waste: coolant, 13 L, drum",
    );
    expect(actText({ do: "stage", work, what: "rinsed" }, said)).toContain("Rinsed");
  });
  it("carries the program's clock on, whatever the time of day says", () => {
    vi.useFakeTimers();
    const { result, rerender } = renderHook((p: { elapsed_s: number; running: boolean }) => useElapsed(p), {
      initialProps: { elapsed_s: 100, running: true },
    });
    vi.setSystemTime(new Date("1999-01-01")); // somebody sets the clock
    act(() => void vi.advanceTimersByTime(3000));
    expect(result.current).toBeCloseTo(103, 0);
    rerender({ elapsed_s: 400, running: true }); // after sleep the next answer puts it right
    expect(result.current).toBeCloseTo(400, 0);
    rerender({ elapsed_s: 410, running: false });
    act(() => void vi.advanceTimersByTime(5000));
    expect(result.current).toBe(410);
  });
});
