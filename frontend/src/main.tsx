import "@fontsource/atkinson-hyperlegible/400.css";
import "@fontsource/atkinson-hyperlegible/700.css";
import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { Problem } from "./api/client";
import { App } from "./shell/app";
import { fetchAhead } from "./shell/first-look";
import { forgetAnswers, keepForOffline } from "./shell/offline";

const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    // This device was put out, or the code was changed: the door asks again.
    onError: (error) => {
      if (error instanceof Problem && error.code === "code-needed") {
        void forgetAnswers();
        void queries.invalidateQueries({ queryKey: ["access"] });
      }
    },
  }),
  defaultOptions: { queries: { retry: 1, staleTime: 2000 } },
});
fetchAhead(queries);
keepForOffline(() => void queries.invalidateQueries());
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
