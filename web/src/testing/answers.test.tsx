import { ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState, type ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { describe, expect, it, vi } from "vitest";
import type {
  FieldError,
  PlantHealth,
  Schemas,
  Calculator,
  CalculatorAnswer,
  CalculatorField,
  Unit,
} from "../api/client";
import { themeFor } from "../theme/theme";
import { HealthWords } from "../ui/readings/HealthWords";
import { StoredCalculations } from "../ui/StoredCalculations";
import { PathPicture } from "../ui/readings/PathPicture";
import { AnswerView } from "../features/calculator/AnswerView";
import { CalculatorContext } from "../features/calculator/fieldParts";
import { Fields } from "../features/calculator/Fields";
import type { Group } from "../features/calculator/sheet";
import { unitsOf } from "../ui/units";
import type { Words } from "../ui/words";

const unit = (id: string, dimension: string, symbol: string, u: Partial<Unit> = {}): Unit => ({
  id,
  dimension,
  symbol,
  factor: 1,
  shift: 0,
  decimals: 1,
  shown_as: { metric: id, us: id, imperial: id },
  ...u,
});
const list = [
  unit("degC", "temperature", "°C", { shown_as: { metric: "degC", us: "degF", imperial: "degC" } }),
  unit("degF", "temperature", "°F", { factor: 5 / 9, shift: -32 }),
  unit("kW", "power", "kW"),
  unit("percent", "share", "%"),
];
const units = unitsOf(list);

const show = (ui: ReactNode) => {
  const cache = new QueryClient({ defaultOptions: { queries: { enabled: false } } });
  cache.setQueryData(["calculators"], { sums: [], units: list });
  return render(
    <QueryClientProvider client={cache}>
      <ThemeProvider theme={themeFor("deck")}>
        <MemoryRouter>{ui}</MemoryRouter>
      </ThemeProvider>
    </QueryClientProvider>,
  );
};

const field = (name: string, kind: CalculatorField["kind"], f: Partial<CalculatorField> = {}): CalculatorField => ({
  name,
  label: name,
  kind,
  optional: false,
  more: false,
  ...f,
});

/** Fields with a sheet of their own, as the sums page has them. */
function Sheet({ fields, wrong = [] }: { fields: CalculatorField[]; wrong?: FieldError[] }) {
  const [given, setGiven] = useState<Group>({});
  return (
    <CalculatorContext
      value={{
        sheet: { given, units: {} },
        units,
        system: "metric",
        wrong: new Map(wrong.map((w) => [w.field, w])),
        understood: { inlet: { value: 71.11, unit: "degC" } },
        choose: vi.fn(),
      }}
    >
      <Fields fields={fields} given={given} path="" plain="" onGive={(f, e) => setGiven((g) => ({ ...g, [f]: e }))} />
      <output>{JSON.stringify(given)}</output>
    </CalculatorContext>
  );
}

const given = () => JSON.parse(screen.getByRole("status").textContent) as Group;

describe("the fields of a sum", () => {
  it("take what is typed and say how a unit was read", async () => {
    show(<Sheet fields={[field("inlet", "number", { unit: "degC" })]} />);
    await userEvent.type(screen.getByRole("textbox", { name: "inlet" }), "160F");
    expect(given()).toEqual({ inlet: "160F" });
    expect(screen.getByText(/read as 71.1/)).toBeInTheDocument();
  });
  it("tell a slip at its field", () => {
    const slip = { field: "inlet", given: "-300", allowed: "-50 to 300 °C", say: "too cold" };
    show(<Sheet fields={[field("inlet", "number", { unit: "degC" })]} wrong={[slip]} />);
    expect(screen.getByRole("alert")).toHaveTextContent("too cold");
    expect(screen.getByRole("textbox", { name: "inlet" })).toBeInvalid();
  });
  it("keep back what is seldom touched, and what does not matter", async () => {
    const fields = [
      field("kind", "choice", {
        default: "sea",
        choices: [
          { id: "sea", label: "Sea" },
          { id: "fresh", label: "Fresh" },
        ],
      }),
      field("salt", "number", { unit: "percent", only_if: { field: "kind", is: ["sea"] } }),
      field("pressure", "number", { unit: "percent", more: true }),
    ];
    show(<Sheet fields={fields} />);
    expect(screen.queryByRole("textbox", { name: "pressure" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: /^Also: pressure/ }));
    expect(screen.getByRole("textbox", { name: "pressure" })).toBeVisible();
    await userEvent.click(screen.getByRole("button", { name: "Fresh" }));
    expect(screen.queryByRole("textbox", { name: "salt" })).toBeNull();
    expect(given()).toEqual({ kind: "fresh" });
  });
  it("take rows, one by one or as a pasted table", async () => {
    const rows = field("readings", "rows", {
      min_rows: 2,
      max_rows: 9,
      fields: [field("water", "number", { unit: "degC" }), field("rising", "yes-no", { optional: true })],
    });
    show(<Sheet fields={[rows]} />);
    const first = screen.getByRole("group", { name: "readings, 1" });
    await userEvent.type(within(first).getByRole("textbox"), "60");
    await userEvent.click(within(first).getByRole("button", { name: "yes" }));
    await userEvent.click(screen.getByRole("button", { name: "Another row" }));
    expect(given()).toEqual({ readings: [{ water: "60", rising: true }, {}, {}] });
    await userEvent.click(screen.getByRole("button", { name: "readings, 1: take this row out" }));
    expect(given()).toEqual({ readings: [{}, {}] });
    await userEvent.click(within(screen.getByRole("group", { name: "readings, 1" })).getByRole("textbox"));
    await userEvent.paste("water\n60\n61\n");
    expect(given()).toEqual({ readings: "water\n60\n61\n" });
    await userEvent.click(screen.getByRole("button", { name: "Type rows instead" }));
    expect(given()).toEqual({});
  });
  it("take times with the stopwatch", async () => {
    show(<Sheet fields={[field("seconds", "numbers", { unit: "s" })]} />);
    await userEvent.click(screen.getByRole("button", { name: "Start the stopwatch" }));
    await userEvent.click(screen.getByRole("button", { name: /^Full: stop/ }));
    expect((given().seconds as string[])[0]).toMatch(/^\d+\.\d$/);
  });
});

const sum = {
  name: "heat",
  asks: "How much heat?",
  fields: [field("flow", "number", { label: "Flow", unit: "percent" })],
  results: [
    { name: "heat_kw", label: "Heat", kind: "number", unit: "kW", main: true },
    { name: "outlet_c", label: "Out", kind: "number", unit: "degC", main: false },
    { name: "dry", label: "Dry", kind: "yes-no", main: false },
    { name: "reasons", label: "Because", kind: "text", main: false },
    { name: "nothing", label: "Not there", kind: "number", unit: "kW", main: true },
  ],
  notes: ["At the inlet."],
  sources: ["Somebody 1984"],
} as unknown as Calculator;

const answer = {
  result: { heat_kw: 35.38, outlet_c: 29.5, dry: false, reasons: ["it is so"], nothing: null },
  uncertainty: { heat_kw: 1.6, outlet_c: 0.0001 },
  working: [
    {
      text: "",
      say: "Heat",
      formula: "Q = ṁ c ΔT",
      of: [{ symbol: "ΔT", value: 11.5, unit: "degC" }],
      gives: { symbol: "Q", value: 35.38, unit: "kW" },
    },
  ],
  warnings: ["Read again."],
  cautions: [],
  understood: {},
} as CalculatorAnswer;

describe("an answer", () => {
  it("shows what was asked for with its error, in the person's units, and the rest", async () => {
    show(<AnswerView sum={sum} answer={answer} missing={[]} wrong={false} units={units} system="us" />);
    const region = screen.getByRole("region", { name: "Answer" });
    expect(region).toHaveTextContent("35.4 ± 1.6 kW");
    expect(region).toHaveTextContent("85.1 °F"); // its error is too small to be worth a word
    expect(region).toHaveTextContent("Dryno");
    expect(region).not.toHaveTextContent("Not there");
    expect(screen.getByRole("note")).toHaveTextContent("Read again.");
    await userEvent.click(screen.getByRole("button", { name: "Show the working" }));
    expect(region).toHaveTextContent("with ΔT = 52.7 °F");
    expect(region).toHaveTextContent("Somebody 1984");
  });
  it("says what is still missing instead of an old answer", () => {
    const missing = [{ field: "flow", given: "nothing", allowed: "", say: "" }];
    show(<AnswerView sum={sum} answer={answer} missing={missing} wrong={false} units={units} system="metric" />);
    expect(screen.getByRole("region", { name: "Answer" })).toHaveTextContent("Still to fill inFlow");
    expect(screen.queryByText(/35.4/)).toBeNull();
  });
});

const health: PlantHealth = {
  figures: [
    { id: "raw-flow", label: "raw flow", value: 0.6, error: 0.1, healthy: 1, ratio: true, known: true },
    { id: "gauge", label: "gauge", value: 5, error: 2, healthy: 0, ratio: false, known: true },
    { id: "ua", label: "exchanger", value: 1, error: 0.6, healthy: 1, ratio: true, known: false },
  ],
  patterns: [
    { id: "raw-flow-low", ratio: 900, q: 0.999 },
    { id: "exchanger-weak", ratio: 6, q: 0.86 },
    { id: "gauge-off", ratio: 0.2, q: 0.17 },
  ],
  findings: [],
  faults: [],
  weak: ["heat-high"],
  hidden: ["strainer"],
  unsettled: [],
  doubts: [{ round: 0, reading: 1, say: "was it °F?" }],
  words: [],
  says_found: 20,
  next: [{ rpm: 3000, station: "flow", bits: 0.6, between: ["raw-flow-low", "heat-high"] }],
};
const byType = { kind: "type" as const, rounds: [] };

describe("readings", () => {
  it("say what they show, what it could also be, what they cannot, and ask about slips", async () => {
    const words = { fault: (id: string) => `Fault ${id}` } as Words;
    const { rerender } = show(
      <HealthWords health={health} standard={byType} rpm={2400} words={words} units={units} system="us" />,
    );
    const say = screen.getByRole("region", { name: "What the readings say" });
    expect(say).toHaveTextContent("They show too little raw water.");
    expect(say).toHaveTextContent("It could also be a weak exchanger.");
    expect(say).not.toHaveTextContent("a gauge that reads wrong.");
    expect(say).toHaveTextContent("cannot show: more heat than it should make");
    expect(screen.getByRole("note")).toHaveTextContent("Was it °F?");
    expect(say).toHaveTextContent("Raw flow about 60 % of healthy, could be 50 to 70.");
    expect(say).toHaveTextContent("Gauge reads 5 K high, give or take 2.");
    expect(say).toHaveTextContent("Not to be judged from these readings: exchanger.");
    expect(say).toHaveTextContent(
      "The raw water, bucket and watch, at 3000 rev/min: tells too little raw water from more heat than it should make.",
    );
    expect(say).toHaveTextContent("Compared with a typical engine of this kind.");
    await userEvent.click(screen.getByRole("button", { name: /hardly shows in these readings: 1/ }));
    expect(say).toHaveTextContent("fault strainer.");
    rerender(
      <ThemeProvider theme={themeFor("deck")}>
        <HealthWords
          health={{ ...health, patterns: [{ id: "raw-flow-low", ratio: 7, q: 0.87 }] }}
          standard={{ kind: "twin", name: "Port", rounds: [] }}
          words={words}
          units={units}
          system="metric"
        />
      </ThemeProvider>,
    );
    expect(screen.getByText(/They lean to/)).toBeInTheDocument();
    expect(screen.getByText(/Compared with its sister, Port/)).toBeInTheDocument();
  });
  it("are drawn on the band where a healthy engine reads", async () => {
    const words = { station: (id: string) => id } as Words;
    const round = {
      operation: { rpm: 2400, sea_c: 15 },
      readings: [
        { station: "outlet", side: "raw" as const, value: 55, error: 1 },
        { station: "flow", value: 40 },
      ],
    };
    const should = [{ station: "outlet", side: "raw" as const, temp_c: 30, spread_k: 2 }];
    show(<PathPicture {...{ round, should, words, units }} system="us" />);
    expect(screen.getByRole("img")).toHaveAccessibleName("outlet: found 131.0\u00a0°F, should be 86.0\u00a0°F");
    const read = screen.getByRole("slider", { name: /Read the chart/ });
    read.focus();
    await userEvent.keyboard("{ArrowDown}");
    expect(read).toHaveTextContent(/outlet: 131.0.°F, should be 78.0.°F to 94.0.°F/);
  });
});

describe("sums kept in a job", () => {
  it("tell their figures and lead back to what was given", () => {
    const kept = {
      name: "heat",
      asks: "How much heat?",
      given: {},
      units: "metric",
      figures: [
        { label: "Heat", value: 35.38, error: 1.6, unit: "kW" },
        { label: "Verdict", words: "Good" },
      ],
      words: "At 2400",
      by: "Ide",
      at: "2026-05-04T09:00:00Z",
      entry_id: "e1",
    } as Schemas["StoredCalculation"];
    show(<StoredCalculations job="j1" sums={[kept]} />);
    const link = screen.getByRole("link", { name: /How much heat/ });
    expect(link).toHaveAttribute("href", "/calculators/heat?job=j1&entry=e1");
    expect(link).toHaveTextContent("Heat: 35.4 kW (± 1.6); Verdict: Good");
  });
});
