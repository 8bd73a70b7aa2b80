import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Picture } from "../../api/client";
import { show } from "../../testing/show";
import { Chart } from "./Chart";
import { unitsOf } from "../units";

const units = unitsOf([]);
const line = (label: string, y: number[]) => ({ label, role: "plain" as const, x: [0, 10], y, dots: false });
const picture = {
  title: "Block over speed",
  x: { label: "Speed", unit: "" },
  y: { label: "Block", unit: "" },
  lines: [line("In health", [80, 90]), line("With these faults", [80, 110])],
  bars: [],
  bands: [],
  limits: [],
  marks: [],
} as unknown as Picture;

describe("a chart", () => {
  it("says what every line is at a place, by the arrow keys, and is quiet again", async () => {
    show(<Chart picture={picture} units={units} system="metric" />);
    const read = screen.getByRole("slider", { name: "Read the chart: Block over speed" });
    expect(read).toHaveAttribute("aria-valuetext", "Arrow keys move along it");
    read.focus();
    await userEvent.keyboard("{ArrowRight}");
    const middle = "At 5.10: In health 85.10; With these faults 95.30";
    expect(read).toHaveTextContent(middle);
    expect(read).toHaveAttribute("aria-valuetext", middle);
    await userEvent.keyboard("{ArrowLeft>25/}");
    expect(read).toHaveTextContent("At 0.00: In health 80.00; With these faults 80.00");
    await userEvent.keyboard("{ArrowRight>45/}");
    expect(read).toHaveTextContent("nothing is known"); // the axis goes on a little beyond the lines
    await userEvent.keyboard("{Escape}");
    expect(read).toHaveTextContent(/arrow keys/);
  });
});
