import { CssBaseline, ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { BrowserRouter, Route, Routes } from "react-router";
import { outbox } from "./api/outbox";
import { Notices } from "./ui/notices";
import { Shell } from "./ui/Shell";
import { MethodsScreen } from "./features/methods/MethodsScreen";
import { DueScreen } from "./features/maintenance/DueScreen";
import { EngineScreen } from "./features/engine/EngineScreen";
import { FeedScreen } from "./features/proving/FeedScreen";
import { TeardownScreen } from "./features/teardown/TeardownScreen";
import { JobScreen } from "./features/job/JobScreen";
import { DatalogScreen } from "./features/proving/DatalogScreen";
import { Missing } from "./ui/Missing";
import { ReportScreen } from "./features/reports/ReportScreen";
import { ProvingScreen } from "./features/proving/ProvingScreen";
import { RoundScreen } from "./features/readings/RoundScreen";
import { InventoryScreen } from "./features/inventory/InventoryScreen";
import { CalculatorScreen } from "./features/calculator/CalculatorScreen";
import { HandbookScreen } from "./features/handbook/HandbookScreen";
import { WetworkScreen } from "./features/wetwork/WetworkScreen";
import { WhatIfScreen } from "./features/readings/WhatIfScreen";
import { Yard } from "./features/yard/YardScreen";
import { useLight } from "./theme/light";
import { themeFor } from "./theme/theme";

const cache = new QueryClient({ defaultOptions: { queries: { retry: 1, networkMode: "always", staleTime: 1000 } } });

export function App() {
  const light = useLight();
  const theme = useMemo(() => themeFor(light), [light]);
  useEffect(() => {
    const hurry = () => outbox.hurry();
    hurry();
    window.addEventListener("online", hurry);
    return () => window.removeEventListener("online", hurry);
  }, []);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <QueryClientProvider client={cache}>
        <Notices>
          <BrowserRouter>
            <Shell>
              <Routes>
                <Route path="/" element={<Yard />} />
                <Route path="/parts" element={<InventoryScreen />} />
                <Route path="/due" element={<DueScreen />} />
                <Route path="/engines/:id" element={<EngineScreen />} />
                <Route path="/engines/:id/what-if" element={<WhatIfScreen />} />
                <Route path="/jobs/:id" element={<JobScreen />} />
                <Route path="/jobs/:id/round" element={<RoundScreen />} />
                <Route path="/jobs/:id/wetwork" element={<WetworkScreen />} />
                <Route path="/jobs/:id/proving" element={<ProvingScreen />} />
                <Route path="/jobs/:id/report" element={<ReportScreen />} />
                <Route path="/jobs/:id/datalog" element={<DatalogScreen />} />
                <Route path="/engines/:id/feed" element={<FeedScreen />} />
                <Route path="/jobs/:id/teardown" element={<TeardownScreen />} />
                <Route path="/calculators" element={<CalculatorScreen />} />
                <Route path="/calculators/:name" element={<CalculatorScreen />} />
                <Route path="/methods" element={<MethodsScreen />} />
                <Route path="/handbook" element={<HandbookScreen />} />
                <Route path="*" element={<Missing />} />
              </Routes>
            </Shell>
          </BrowserRouter>
        </Notices>
      </QueryClientProvider>
    </ThemeProvider>
  );
}
