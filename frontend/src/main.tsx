import "@fontsource-variable/archivo/wdth.css";
import "@fontsource/ibm-plex-sans/latin-400.css";
import "@fontsource/ibm-plex-sans/latin-600.css";
import "./index.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./shell/App";

/** The server may stand beside the page, in a shed without any network: "off-line" says nothing about it. */
const networkMode = "always";

const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: 2, staleTime: Infinity, refetchOnWindowFocus: false, networkMode },
    mutations: { networkMode },
  },
});

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      {/* what stands in the address is typed: it must be drawn before the next key, never as a later transition */}
      <BrowserRouter useTransitions={false}>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
