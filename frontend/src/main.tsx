import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app";
import { client } from "./api/queries";
import { keepOffline } from "./offline";
import { keptTheme, setTheme } from "./ui/theme";
import "./theme.css";

setTheme(keptTheme());
keepOffline();
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );
}
