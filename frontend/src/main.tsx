import "@fontsource/atkinson-hyperlegible/400.css";
import "@fontsource/atkinson-hyperlegible/700.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { App } from "./shell/app";

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: 2000 } },
});
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );
}
