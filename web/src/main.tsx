import "@fontsource-variable/atkinson-hyperlegible-next";
import "./ui/ui.css";
import { ChakraProvider } from "@chakra-ui/react";
import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { ApiError } from "./api/client";
import { catalogueQuery } from "./api/queries";
import { App, coming } from "./App";
import { system } from "./ui/theme";

// The content security policy lets in only styles that carry the page's own nonce.
const nonce = document.querySelector<HTMLMetaElement>("meta[name=style-nonce]")?.content;
const cache = createCache({ key: "w", nonce });

const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    onError: (error) => {
      // A device of the room's network that was put out meets the passphrase again; what it typed is kept.
      const isOut = error instanceof ApiError && error.status === 401;
      if (isOut && queries.getQueryData(catalogueQuery.queryKey)) window.location.reload();
    },
  }),
  defaultOptions: {
    // The server is on this machine: being off the network must not hold anything back.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      // What the server has answered is its answer; only one that is busy, or away, is asked again.
      retry: (count, error) => count < 2 && !(error instanceof ApiError && error.status >= 400 && error.status !== 503),
      refetchOnWindowFocus: false,
    },
  },
});

// The night bench follows the machine.
const night = window.matchMedia("(prefers-color-scheme: dark)");
const follow = () => document.documentElement.classList.toggle("dark", night.matches);
night.addEventListener("change", follow);
follow();

const root = document.getElementById("root");
if (root) {
  const page = coming(window.location.pathname, queries);
  createRoot(root).render(
    <StrictMode>
      <CacheProvider value={cache}>
        <ChakraProvider value={system}>
          <QueryClientProvider client={queries}>
            <BrowserRouter>
              <App page={page} />
            </BrowserRouter>
          </QueryClientProvider>
        </ChakraProvider>
      </CacheProvider>
    </StrictMode>,
  );
}
