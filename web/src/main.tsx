import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app/App";
import { registerShareWorker } from "./areas/plan";
import { applyTheme } from "./shell/theme";
import { Boundary } from "./ui/Boundary";
import { tellWholes } from "./ui/wholes";
import "./index.css";

applyTheme();
registerShareWorker();
tellWholes();
const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <Boundary place="all">
        <App />
      </Boundary>
    </StrictMode>,
  );
