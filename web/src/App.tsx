import { CssBaseline, ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { BrowserRouter, Route, Routes } from "react-router";
import { outbox } from "./api/outbox";
import { Notices } from "./parts/notice";
import { Shell } from "./parts/Shell";
import { BookScreen } from "./screens/BookScreen";
import { DueScreen } from "./screens/DueScreen";
import { EngineScreen } from "./screens/EngineScreen";
import { FeedScreen } from "./screens/FeedScreen";
import { HandsScreen } from "./screens/HandsScreen";
import { JobScreen } from "./screens/JobScreen";
import { LoggerScreen } from "./screens/LoggerScreen";
import { Missing } from "./screens/Missing";
import { PapersScreen } from "./screens/PapersScreen";
import { ProvingScreen } from "./screens/ProvingScreen";
import { RoundScreen } from "./screens/RoundScreen";
import { ShelfScreen } from "./screens/ShelfScreen";
import { SumsScreen } from "./screens/SumsScreen";
import { TradeScreen } from "./screens/TradeScreen";
import { WetScreen } from "./screens/WetScreen";
import { WhatIfScreen } from "./screens/WhatIfScreen";
import { Yard } from "./screens/Yard";
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
                <Route path="/shelf" element={<ShelfScreen />} />
                <Route path="/due" element={<DueScreen />} />
                <Route path="/engines/:id" element={<EngineScreen />} />
                <Route path="/engines/:id/what-if" element={<WhatIfScreen />} />
                <Route path="/jobs/:id" element={<JobScreen />} />
                <Route path="/jobs/:id/round" element={<RoundScreen />} />
                <Route path="/jobs/:id/wet" element={<WetScreen />} />
                <Route path="/jobs/:id/proving" element={<ProvingScreen />} />
                <Route path="/jobs/:id/papers" element={<PapersScreen />} />
                <Route path="/jobs/:id/logger" element={<LoggerScreen />} />
                <Route path="/engines/:id/feed" element={<FeedScreen />} />
                <Route path="/jobs/:id/hands" element={<HandsScreen />} />
                <Route path="/sums" element={<SumsScreen />} />
                <Route path="/sums/:name" element={<SumsScreen />} />
                <Route path="/book" element={<BookScreen />} />
                <Route path="/trade" element={<TradeScreen />} />
                <Route path="*" element={<Missing />} />
              </Routes>
            </Shell>
          </BrowserRouter>
        </Notices>
      </QueryClientProvider>
    </ThemeProvider>
  );
}
