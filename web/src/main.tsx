import "./styles.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Loading } from "./app/Loading.tsx";
import { NotFound, PageError } from "./app/PageError.tsx";
import { JobsPage } from "./jobs/JobsPage.tsx";

const queries = new QueryClient({
  defaultOptions: { queries: { staleTime: 5_000, retry: 1 } },
});

const router = createBrowserRouter([
  { path: "/", element: <Navigate to="/jobs" replace /> },
  { path: "/jobs", element: <JobsPage />, errorElement: <PageError /> },
  {
    path: "/jobs/:id/:stage?",
    lazy: async () => ({ Component: (await import("./job/JobPage.tsx")).JobPage }),
    HydrateFallback: () => <Loading what="the bench" />,
    errorElement: <PageError />,
  },
  { path: "*", element: <NotFound /> },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
