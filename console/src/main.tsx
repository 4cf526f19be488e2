import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import "./console.css";

const root = document.getElementById("root");
if (root === null) {
  throw new Error("index.html has no element with the id root");
}
// what an address selects is shown with the text it stands in and not later, or a button would work on what was selected before
createRoot(root).render(
  <StrictMode>
    <BrowserRouter useTransitions={false}>
      <App />
    </BrowserRouter>
  </StrictMode>,
);
