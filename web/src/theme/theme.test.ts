import { getContrastRatio } from "@mui/material/styles";
import { describe, expect, it } from "vitest";
import { tokens } from "./theme";

describe.each(Object.entries(tokens))("%s", (_, t) => {
  const grounds = [t.ground, t.water.panel, t.water.sunk];

  it("frames what can be touched with 3 to 1", () => {
    for (const g of grounds) expect(getContrastRatio(t.edge, g)).toBeGreaterThanOrEqual(3);
  });

  it("writes with 4.5 to 1", () => {
    for (const words of [t.ink, t.soft, t.water.found, t.water.clear, t.water.suspect])
      for (const g of grounds) expect(getContrastRatio(words, g)).toBeGreaterThanOrEqual(4.5);
  });
});
