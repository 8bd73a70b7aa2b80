import "@fontsource-variable/atkinson-hyperlegible-next/index.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { firmTaps } from "./ui/firmTaps";

firmTaps();

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  );
