import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app/App";
import { applyTheme } from "./shell/theme";
import { Boundary } from "./ui/Boundary";
import { tellWholes } from "./ui/wholes";
import "./index.css";

applyTheme();
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
