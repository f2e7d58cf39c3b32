import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./shell/App";
import { loadPageAt } from "./shell/routes";
import "./styles.css";

void loadPageAt(window.location.pathname);
const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root");
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);

// The shell stays on the device, so that the page opens without the server too. Browsers allow that
// on this machine and over TLS alone; elsewhere an open page still keeps what is noted.
const AFTER_MS = 3000;
if (import.meta.env.PROD && "serviceWorker" in navigator)
  window.addEventListener("load", () =>
    setTimeout(
      () => void navigator.serviceWorker.register("/sw.js").catch(() => undefined),
      AFTER_MS,
    ),
  );
