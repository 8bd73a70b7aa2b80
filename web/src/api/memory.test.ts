import { describe, expect, it, vi } from "vitest";
import { memory } from "./memory";

describe("what a device remembers", () => {
  it("lasts as long as the page where the storage is full, and breaks nothing where it is malformed", () => {
    const fails = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    expect(memory.set("t.name", "Ide")).toBe(false);
    expect(memory.text("t.name")).toBe("Ide");
    fails.mockRestore();
    expect(memory.set("t.name", undefined)).toBe(true);
    expect(memory.text("t.name")).toBeUndefined();
    localStorage.setItem("t.draft", "{not json");
    expect(memory.read("t.draft", (x): x is object => typeof x === "object")).toBeUndefined();
    localStorage.setItem("t.draft", "[1]");
    expect(memory.read("t.draft", (x): x is string => typeof x === "string")).toBeUndefined();
  });
});
