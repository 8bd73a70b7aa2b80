import { ThemeProvider } from "@mui/material/styles";
import { readFileSync } from "node:fs";
import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, it } from "vitest";
import { parse } from "yaml";
import { themeFor } from "../theme/theme";
import { face } from "./coolerPlates";
import Drawing, { type Shows } from "./Drawing";
import { bend } from "./exhaustPlates";
import {
  beltRuns,
  countOf,
  gridWithin,
  openRadius,
  openWidth,
  polar,
  segmentArea,
  segmentHeight,
  strewn,
} from "./geometry";
import { penOf } from "./inks";
import { plates } from "./plates";
import { crossOrder } from "./readPlates";

interface File {
  plates: { id: string; says: string; views: string[]; shows: string[] }[];
  stations: Record<string, Shows>;
  checks: Record<string, Shows>;
  findings: Record<string, { present?: Shows; absent?: Shows }>;
}
const file = parse(readFileSync("../core/drawings/drawings.yaml", "utf8")) as File;
const deck = themeFor("deck");
const drawn = (of: Shows, small = false) =>
  renderToStaticMarkup(
    <ThemeProvider theme={deck}>
      <Drawing of={of} small={small} label="it" />
    </ThemeProvider>,
  ).replace(/_R_\w*_/g, "");

describe("the plates", () => {
  it("are those that the catalogue names, each drawn in every view and with all that it shows", () => {
    expect(Object.keys(plates).sort()).toEqual(file.plates.map((p) => p.id).sort());
    for (const p of file.plates)
      for (const view of ["", ...p.views]) {
        const quiet = drawn({ plate: p.id, view });
        expect(quiet, `${p.id} ${view}`).not.toMatch(/NaN|undefined|Infinity/);
        if (view) expect(quiet, `${p.id}: its view ${view} is another drawing`).not.toBe(drawn({ plate: p.id }));
      }
    for (const p of file.plates)
      for (const name of p.shows) {
        const others = Object.fromEntries(p.shows.map((s) => [s, 0.5]));
        const changes = ["", ...p.views].some((view) =>
          [{}, others, ...p.shows.map((s) => ({ [s]: 0.5 }))].some(
            (show) =>
              drawn({ plate: p.id, view, show: { ...show, [name]: 0 } }) !==
              drawn({ plate: p.id, view, show: { ...show, [name]: 1 } }),
          ),
        );
        expect(changes, `${p.id} shows ${name}`).toBe(true);
      }
  });
  it("tell an answer from its opposite, small as well", () => {
    for (const [id, { present, absent }] of Object.entries(file.findings))
      if (present && absent) expect(drawn(present, true), id).not.toBe(drawn(absent, true));
  });
  it("have no line under 1.5 px and no letter under 11 px at 160 px, and none at half of that", () => {
    for (const p of file.plates)
      for (const view of ["", ...p.views]) {
        const all = drawn({ plate: p.id, view, show: Object.fromEntries(p.shows.map((s) => [s, 0.5])) });
        for (const [, size] of all.matchAll(/font-size="([\d.]+)"/g)) expect(Number(size)).toBeGreaterThanOrEqual(11);
        for (const [, w] of all.matchAll(/stroke-width="([\d.]+)"/g)) expect(Number(w)).toBeGreaterThanOrEqual(1.5);
        expect(all).toMatch(/--thin:1.5;--thick:3/);
        expect(drawn({ plate: p.id, view }, true)).not.toContain("<text");
      }
  });
  it("say in words what they show to those who do not see them, and nothing where words stand beside", () => {
    expect(drawn({ plate: "elbow" })).toMatch(/^<svg [^>]*role="img" aria-label="it"/);
    expect(file.plates.every((p) => p.says.length > 10)).toBe(true);
    expect(drawn({ plate: "keel" })).toBe("");
  });
  it("are clear in both themes and in greys: what is drawn stands out of what it lies on", () => {
    for (const light of ["deck", "engine-space"] as const) {
      const pen = penOf(themeFor(light));
      for (const under of [pen.paper, pen.metal, pen.rawTone, pen.coolantTone, pen.oil, pen.crust, pen.weed]) {
        expect(contrast(pen.ink, under), `${light}: ink on ${under}`).toBeGreaterThan(7);
        expect(contrast(pen.accent, under), `${light}: accent on ${under}`).toBeGreaterThan(3);
      }
      expect(contrast(pen.raw, pen.rawTone)).toBeGreaterThan(3);
      expect(contrast(pen.coolant, pen.coolantTone)).toBeGreaterThan(3);
      expect(contrast(pen.rubber, pen.paper)).toBeGreaterThan(2.5);
    }
  });
});

/** Contrast of two colours (WCAG 2.2, relative luminance). */
function contrast(a: string, b: string): number {
  const light = (hex: string) => {
    const [r = 0, g = 0, bl = 0] = [1, 3, 5].map((i) => {
      const c = parseInt(hex.slice(i, i + 2), 16) / 255;
      return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * r + 0.7152 * g + 0.0722 * bl;
  };
  const [x, y] = [light(a), light(b)].sort((m, n) => n - m);
  return ((x ?? 0) + 0.05) / ((y ?? 0) + 0.05);
}

describe("what is drawn is true", () => {
  it("covers of a bore what is said", () => {
    for (const share of [0.1, 0.4, 0.9]) {
      const open = openRadius(36, share);
      expect(1 - (open * open) / (36 * 36)).toBeCloseTo(share, 12);
      expect(segmentArea(40, segmentHeight(40, share)) / (Math.PI * 1600)).toBeCloseTo(share, 9);
    }
    expect(segmentHeight(40, 0.5)).toBeCloseTo(40, 9);
  });
  it("leaves open of a hose's width what is said", () => {
    const choked = drawn({ plate: "hose", view: "bore", show: { choked: 0.25 } });
    expect(choked).toContain(`a${43 * 0.75} ${43 * 0.75} 0 1 0`);
  });
  it("narrows the elbow's bore by what is said", () => {
    const bore = bend.outer - bend.inner;
    expect(openWidth(bore, 0.25) / bore).toBeCloseTo(0.75, 12);
    const lost = /A([\d.]+) [\d.]+ 0 0 0/g;
    const radii = [...drawn({ plate: "elbow", show: { narrowed: 0.5 } }).matchAll(lost)].map((m) => Number(m[1]));
    // the crust within reaches from the inner wall out, that without from the outer wall in: half of the bore between
    expect(radii).toContain(bend.outer - bore / 4);
    expect(drawn({ plate: "elbow", show: { narrowed: 0.5 } })).toContain(`A${bend.inner + bore / 4} `);
  });
  it("covers so many tubes of a face as are said", () => {
    const squares = (covered: number) =>
      (drawn({ plate: "tube-plate", show: { covered } }).match(/q3 0 3 3/g) ?? []).length;
    expect(face.length).toBeGreaterThan(30);
    expect(squares(0.3)).toBe(Math.round(0.3 * face.length));
    expect(squares(1)).toBe(face.length);
    expect(strewn(face, 9).every((p) => strewn(face, 20).includes(p))).toBe(true);
    expect(new Set(strewn(face, face.length)).size).toBe(face.length);
  });
  it("tears so many blades off a wheel", () => {
    const gone = (share: number) =>
      (drawn({ plate: "impeller", show: { gone: share } }).match(/stroke-dasharray/g) ?? []).length;
    expect([0, 0.375, 1].map(gone)).toEqual([0, 3, 8]);
    expect(countOf(8, 0.375)).toBe(3);
  });
  it("fills a basket as high as is said", () => {
    const top = (debris: number) =>
      Number(/M[\d.]+ ([\d.]+) q17 -8/.exec(drawn({ plate: "strainer", view: "basket", show: { debris } }))?.[1]);
    expect((106 - top(0.5)) / 92).toBeCloseTo(0.5, 9);
    expect((106 - top(0.95)) / 92).toBeCloseTo(0.95, 9);
  });
  it("lays a belt along the common tangents of its pulleys", () => {
    const [a, b] = [
      { x: 10, y: 20, r: 8 },
      { x: 60, y: 50, r: 14 },
    ];
    for (const [from, to] of beltRuns(a, b)) {
      const along = [to.x - from.x, to.y - from.y] as const;
      expect(along[0] * (from.x - a.x) + along[1] * (from.y - a.y)).toBeCloseTo(0, 9);
      expect(along[0] * (to.x - b.x) + along[1] * (to.y - b.y)).toBeCloseTo(0, 9);
    }
  });
  it("tightens across, never a neighbour", () => {
    expect([...crossOrder(6)].sort()).toEqual([0, 1, 2, 3, 4, 5]);
    const order = crossOrder(6);
    order.slice(1).forEach((at, i) => expect([1, 5]).not.toContain((at - (order[i] ?? 0) + 6) % 6));
    expect(crossOrder(4)).toEqual([0, 2, 1, 3]); // the two pairs that face each other
  });
  it("turns clockwise from the top, and sets tubes apart", () => {
    expect(polar(0, 0, 1, 90).x).toBeCloseTo(1, 12);
    expect(polar(0, 0, 1, 0).y).toBeCloseTo(-1, 12);
    const grid = gridWithin(0, 0, 42, 13);
    for (const [i, p] of grid.entries())
      for (const q of grid.slice(0, i)) expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeGreaterThan(12.99);
  });
});
