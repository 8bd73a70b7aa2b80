import { ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import type { Catalogue, JobPage, Schemas } from "../api/client";
import { themeFor } from "../theme/theme";
import { Notices } from "../ui/notices";
import type { Teardown, TeardownItem } from "../ui/job/teardown";

/** Draws a part as a screen would: theme, notices, addresses, and answers that are there already, by their keys. */
export function show(ui: ReactNode, answers: Record<string, unknown> = {}) {
  const cache = new QueryClient({ defaultOptions: { queries: { enabled: false } } });
  for (const [key, data] of Object.entries(answers)) cache.setQueryData(key.split(","), data);
  const wrapper = ({ children }: { children: ReactNode }) => (
    <ThemeProvider theme={themeFor("deck")}>
      <QueryClientProvider client={cache}>
        <Notices>
          <MemoryRouter>{children}</MemoryRouter>
        </Notices>
      </QueryClientProvider>
    </ThemeProvider>
  );
  return render(ui, { wrapper });
}

export const item = (over: Partial<TeardownItem>, of: Partial<Schemas["TaskItem"]> = {}): TeardownItem => ({
  key: "t/a",
  task: "t",
  item: { id: "a", kind: "part", label: "Cover", count: 1, ...of },
  off: 0,
  new: 0,
  reused: 0,
  excused: "",
  why: "",
  notes: [],
  pass: 0,
  clamps: 0,
  reach: false,
  chafe: false,
  still_off: 0,
  refit: {},
  refit_says: [],
  ...over,
});

export const condition = (over: Partial<Schemas["Condition"]>): Schemas["Condition"] => ({
  id: "blower",
  label: "Blower",
  ok: false,
  why: "not looked at yet",
  settle: "tick",
  item: "blower",
  stands: false,
  overridden: "",
  ...over,
});

export const hands = (over: Partial<Teardown> = {}): Teardown => ({
  isolated: [],
  tasks: [],
  begun: [],
  items: [],
  rebuild: [],
  ledger: { missing: 0, found: 0, old: 0, at_large: 0, over: 0, closed: "", say: "", pieces: [] },
  hunt: [],
  body_says: [],
  wheel_says: [],
  elbow_says: [],
  leaks: [],
  leak_says: [],
  used: [],
  fitted_new: [],
  heeded: [],
  schools: {},
  conditions: [],
  ready: false,
  standing: [],
  starts: [],
  ...over,
});

const nobody = { id: "", value: "", why: "", since: {} };

/** The state of an engine of which nothing stands in the way. */
export const stateOf = (over: Partial<JobPage["state"]> = {}): JobPage["state"] => ({
  may_start: { ok: true, reasons: [] },
  may_crank: { ok: true, reasons: [] },
  raw_water: nobody,
  behind: "",
  open: [],
  parts: [],
  fluids: [],
  heat: nobody,
  isolations: [],
  rubber: hands().ledger,
  where: nobody,
  condemned: [],
  flags: [],
  waiting: [],
  ...over,
});

export const jobOf = (over: Partial<JobPage>): JobPage =>
  ({
    card: { id: "j", complaint: [], faults: [], words: "" },
    diagnosis: { found: [], suspects: [], next_checks: [] },
    repaired: [],
    plan: [],
    kind: { id: "runs-hot", label: "Runs hot", begins: "complaint", ends: "proved", why: "" },
    also_seen: [],
    enough: [],
    checks: [],
    findings: [],
    hands: hands(),
    state: stateOf(),
    proving: { runs: [], recordings: [], has_feed: false },
    photos: [],
    rounds: [],
    engine: { circuit: [], family: "closed", name: "Main" },
    craft: { id: "c", name: "Lissamar" },
    ...over,
  }) as unknown as JobPage;

export const stationsOf = (...labels: [string, string][]): Catalogue =>
  ({
    stations: labels.map(([id, label]) => ({ id, label })),
    faults: [],
    findings: [],
    checks: [],
    history: [],
    access: [],
    job_kinds: [],
    troubles: [],
    waters: [],
    points: [],
    cautions: [{ id: "acid-bath", label: "Acid", text: "Goggles.", act: true }],
  }) as unknown as Catalogue;
