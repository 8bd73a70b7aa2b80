import { CssBaseline, ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useMemo, type ComponentType, type ReactNode } from "react";
import { BrowserRouter, Navigate, Route, Routes, useLocation, useParams } from "react-router";
import { useChanges } from "./api/changes";
import { unitsName } from "./api/client";
import { devicePages, keepPages } from "./api/kept";
import { helpedBy } from "./api/link";
import { memory } from "./api/memory";
import { outbox } from "./api/outbox";
import { basename, practice } from "./api/practice";
import { Yard } from "./features/yard/YardScreen";
import { Gate } from "./Gate";
import { ErrorBoundary } from "./ui/ErrorBoundary";
import { beginGuide } from "./ui/job/guide";
import { useLight } from "./ui/light";
import { Missing } from "./ui/Missing";
import { Notices } from "./ui/notices";
import { Outline } from "./ui/Outline";
import { Shell } from "./ui/Shell";
import { themeFor } from "./theme/theme";

const cache = new QueryClient({ defaultOptions: { queries: { retry: 1, networkMode: "always", staleTime: 1000 } } });

// before anything asks: what is kept is there from the first page on
// a page of practice keeps nothing of what it shows
if (typeof indexedDB !== "undefined" && !practice) {
  keepPages(cache, devicePages());
  // what goes on without a link comes after the first screen
  const phone = () => import("./api/phone").then((m) => m.phone);
  helpedBy(phone);
  outbox.phoneSays = async (letter) => (await phone()).said(letter);
  setTimeout(() => void import("./api/offline").then((m) => m.goOnAlone(cache)).catch(() => undefined), 2000);
}

/** A screen that is fetched when it is opened for the first time. */
function screen<K extends string>(load: () => Promise<Record<K, () => ReactNode>>, name: K) {
  const Screen = lazy(async () => {
    const Default: ComponentType = (await load())[name];
    return { default: Default };
  });
  return <Screen />;
}

const job = () => import("./features/job/JobScreen");
const calculator = () => import("./features/calculator/CalculatorScreen");

const routes = [
  ["/parts", screen(() => import("./features/inventory/InventoryScreen"), "InventoryScreen")],
  ["/due", screen(() => import("./features/maintenance/DueScreen"), "DueScreen")],
  ["/engines/:id", screen(() => import("./features/engine/EngineScreen"), "EngineScreen")],
  ["/engines/:id/what-if", screen(() => import("./features/readings/WhatIfScreen"), "WhatIfScreen")],
  ["/engines/:id/feed", screen(() => import("./features/proving/FeedScreen"), "FeedScreen")],
  ["/jobs/:id", screen(job, "JobScreen")],
  ["/jobs/:id/next", screen(() => import("./features/job/NextStep"), "NextStep")],
  ["/jobs/:id/round", screen(() => import("./features/readings/RoundScreen"), "RoundScreen")],
  ["/jobs/:id/wetwork", screen(() => import("./features/wetwork/WetworkScreen"), "WetworkScreen")],
  ["/jobs/:id/proving", screen(() => import("./features/proving/ProvingScreen"), "ProvingScreen")],
  ["/jobs/:id/report", screen(() => import("./features/reports/ReportScreen"), "ReportScreen")],
  ["/jobs/:id/datalog", screen(() => import("./features/proving/DatalogScreen"), "DatalogScreen")],
  ["/jobs/:id/teardown", screen(() => import("./features/teardown/TeardownScreen"), "TeardownScreen")],
  ["/calculators", screen(calculator, "CalculatorScreen")],
  ["/calculators/:name", screen(calculator, "CalculatorScreen")],
  ["/methods", screen(() => import("./features/methods/MethodsScreen"), "MethodsScreen")],
  ["/hindsight", screen(() => import("./features/methods/HindsightScreen"), "HindsightScreen")],
  ["/lists", screen(() => import("./features/lists/ListScreen"), "ListScreen")],
  ["/setup", screen(() => import("./features/people/SetUpScreen"), "SetUpScreen")],
  ["/device", screen(() => import("./features/device/DeviceScreen"), "DeviceScreen")],
  ["/record", screen(() => import("./features/record/RecordScreen"), "RecordScreen")],
  ["/practice", screen(() => import("./features/practice/PracticeScreen"), "PracticeScreen")],
  ["/practice/bench", screen(() => import("./features/practice/BenchScreen"), "BenchScreen")],
  ["/handbook", screen(() => import("./features/handbook/HandbookScreen"), "HandbookScreen")],
] as const;

/** What there is on a page of practice alone. */
const practiceJob = screen(() => import("./features/practice/ToTheJob"), "ToTheJob");
const review = screen(() => import("./features/practice/ReviewScreen"), "ReviewScreen");

const Join = lazy(() => import("./features/people/JoinScreen").then((m) => ({ default: m.JoinScreen })));
const Shared = lazy(() => import("./features/reports/SharedScreen").then((m) => ({ default: m.SharedScreen })));

/** What there is where people sign in, beside the rest. */
const inYard = [
  ["/me", screen(() => import("./features/people/MeScreen"), "MeScreen")],
  ["/people", screen(() => import("./features/people/PeopleScreen"), "PeopleScreen")],
  ["/labels", screen(() => import("./features/people/LabelsScreen"), "LabelsScreen")],
  ["/audit", screen(() => import("./features/people/AuditScreen"), "AuditScreen")],
] as const;

/** Addresses of earlier versions, as they stand in bookmarks, and where they lead now. */
const moved = [
  ["/shelf", "/parts"],
  ["/sums", "/calculators"],
  ["/sums/:name", "/calculators/:name"],
  ["/book", "/methods"],
  ["/trade", "/handbook"],
  ["/jobs/:id/hands", "/jobs/:id/teardown"],
  ["/jobs/:id/wet", "/jobs/:id/wetwork"],
  ["/jobs/:id/papers", "/jobs/:id/report"],
  ["/jobs/:id/logger", "/jobs/:id/datalog"],
] as const;

function Moved({ to }: { to: string }) {
  const params = useParams();
  const { search } = useLocation();
  return <Navigate replace to={to.replace(/:(\w+)/g, (_, name: string) => params[name] ?? "") + search} />;
}

export function App() {
  const light = useLight();
  const theme = useMemo(() => themeFor(light), [light]);
  useEffect(beginGuide, []);
  // another system of units, other sentences
  useEffect(() => memory.subscribe(unitsName, () => void cache.invalidateQueries()), []);
  useEffect(() => {
    const hurry = () => outbox.hurry();
    window.addEventListener("online", hurry);
    return () => window.removeEventListener("online", hurry);
  }, []);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <ErrorBoundary>
        <QueryClientProvider client={cache}>
          <Notices>
            <BrowserRouter basename={basename}>
              <Suspense>
                <Routes>
                  <Route path="/join" element={<Join />} />
                  <Route path="/shared" element={<Shared />} />
                  <Route
                    path="*"
                    element={
                      <Gate>
                        <Shell>
                          <Screens />
                        </Shell>
                      </Gate>
                    }
                  />
                </Routes>
              </Suspense>
            </BrowserRouter>
          </Notices>
        </QueryClientProvider>
      </ErrorBoundary>
    </ThemeProvider>
  );
}

/** The screens; one that cannot be drawn leaves the bar standing, and another address is another try. */
function Screens() {
  const { pathname } = useLocation();
  useChanges();
  return (
    <ErrorBoundary key={pathname}>
      <Suspense fallback={<Outline />}>
        <Routes>
          <Route path="/" element={practice ? practiceJob : <Yard />} />
          {practice && <Route path="/review" element={review} />}
          {[...routes, ...inYard].map(([path, element]) => (
            <Route key={path} path={path} element={element} />
          ))}
          {moved.map(([path, to]) => (
            <Route key={path} path={path} element={<Moved to={to} />} />
          ))}
          <Route path="*" element={<Missing />} />
        </Routes>
      </Suspense>
    </ErrorBoundary>
  );
}
