import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { clock } from "./clock";

const device = Date.parse("2026-05-04T09:00:00.400Z");

beforeEach(() => {
  localStorage.clear();
  vi.useFakeTimers({ now: device });
});
afterEach(() => void vi.useRealTimers());

test("a clock that is right stays as it is: whole seconds and the way of the answer are no difference", () => {
  clock.heard(Date.parse("2026-05-04T09:00:00Z"), device, device + 900);
  expect(clock.off()).toBe(0);
  expect(clock.stamp()).toBe("2026-05-04T09:00:00.400Z");
});

test("a clock that is wrong is corrected by the yard's, either way, and is right again once it was set", () => {
  clock.heard(Date.parse("2026-05-04T10:07:00Z"), device, device + 200);
  expect(Math.round(clock.off() / 60_000)).toBe(67);
  expect(clock.stamp()).toMatch(/^2026-05-04T10:07:00/);
  clock.heard(Date.parse("2026-05-03T21:00:00Z"), device, device);
  expect(Math.round(clock.off() / 3_600_000)).toBe(-12);
  clock.heard(device, device, device);
  expect(clock.off()).toBe(0);
});

test("an answer that says no time says nothing", () => {
  clock.heard(Date.parse("2026-05-04T10:00:00Z"), device, device);
  clock.heard(Number.NaN, device, device);
  expect(Math.round(clock.off() / 3_600_000)).toBe(1);
});

test("the order of taps stays, also when the clock is set back between them or is corrected", () => {
  const stamps = [clock.stamp(), clock.stamp()];
  vi.setSystemTime(device - 10 * 60_000);
  stamps.push(clock.stamp());
  clock.heard(device - 20 * 60_000, device - 10 * 60_000, device - 10 * 60_000);
  stamps.push(clock.stamp(), clock.stamp());
  expect(stamps).toEqual([...stamps].sort());
  expect(new Set(stamps).size).toBe(stamps.length);
});

test("a clock that was days ahead holds nobody to its last stamp", () => {
  vi.setSystemTime(device + 9 * 86_400_000);
  clock.stamp();
  vi.setSystemTime(device);
  expect(clock.stamp()).toBe("2026-05-04T09:00:00.400Z");
});
