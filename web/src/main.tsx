import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { App } from "./app";
import "./styles.css";

const AWAY_AGAIN = 4_000;

function isAway(error: unknown) {
  return error instanceof Problem && (error.status === 0 || error.status === 503);
}

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 2_000,
      retry: (failures, error) => failures < 2 && !(error instanceof Problem && error.status > 0),
      // What did not come because Ninepin or its database was away comes by itself when they are back.
      refetchInterval: (query) => (isAway(query.state.error) ? AWAY_AGAIN : false),
    },
  },
});

// A screen can only ask before it is left where the router knows of it.
const router = createBrowserRouter([{ path: "*", element: <App /> }]);

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
