import "./styles.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { keepFocus } from "./app/focus.ts";
import { Loading } from "./app/Loading.tsx";
import { keepPages } from "./app/newVersion.ts";
import { NotFound, PageError } from "./app/PageError.tsx";
import { InForce } from "./desk/InForce.tsx";
import { OutboxContext } from "./desk/OutboxContext.tsx";
import { startOutbox } from "./desk/start.ts";
import { makeQueries } from "./outbox/queries.ts";

const queries = makeQueries();

const router = createBrowserRouter([
  {
    element: <InForce />,
    children: [
      { path: "/", element: <Navigate to="/jobs" replace /> },
      {
        path: "/jobs",
        lazy: async () => ({ Component: (await import("./jobs/JobsPage.tsx")).JobsPage }),
        HydrateFallback: () => <Loading what="the jobs" />,
        errorElement: <PageError />,
      },
      {
        path: "/jobs/beside",
        lazy: async () => ({ Component: (await import("./jobs/BesidePage.tsx")).BesidePage }),
        HydrateFallback: () => <Loading what="the jobs" />,
        errorElement: <PageError />,
      },
      {
        path: "/failures",
        lazy: async () => ({ Component: (await import("./failures/FailuresPage.tsx")).FailuresPage }),
        HydrateFallback: () => <Loading what="the figures" />,
        errorElement: <PageError />,
      },
      {
        path: "/jobs/:id/sheets/:sheet?",
        lazy: async () => ({ Component: (await import("./sheets/SheetsPage.tsx")).SheetsPage }),
        HydrateFallback: () => <Loading what="the sheet" />,
        errorElement: <PageError />,
      },
      {
        path: "/jobs/:id/then",
        lazy: async () => ({ Component: (await import("./job/ThenPage.tsx")).ThenPage }),
        HydrateFallback: () => <Loading what="the job as it was" />,
        errorElement: <PageError />,
      },
      {
        path: "/jobs/:id/:stage?",
        lazy: async () => ({ Component: (await import("./job/JobPage.tsx")).JobPage }),
        HydrateFallback: () => <Loading what="the bench" />,
        errorElement: <PageError />,
      },
      {
        path: "/library",
        lazy: async () => ({ Component: (await import("./library/LibraryPage.tsx")).LibraryPage }),
        HydrateFallback: () => <Loading what="the library" />,
        errorElement: <PageError />,
      },
      {
        path: "/library/:id",
        lazy: async () => ({ Component: (await import("./library/CircuitPage.tsx")).CircuitPage }),
        HydrateFallback: () => <Loading what="the circuit" />,
        errorElement: <PageError />,
      },
      {
        path: "/practice",
        lazy: async () => ({ Component: (await import("./practice/PracticePage.tsx")).PracticePage }),
        HydrateFallback: () => <Loading what="practice" />,
        errorElement: <PageError />,
      },
      {
        path: "/practice/paper/:kind",
        lazy: async () => ({ Component: (await import("./paper/PaperPage.tsx")).PaperPage }),
        HydrateFallback: () => <Loading what="the exercise" />,
        errorElement: <PageError />,
      },
      {
        path: "/practice/:id",
        lazy: async () => ({ Component: (await import("./practice/HuntPage.tsx")).HuntPage }),
        HydrateFallback: () => <Loading what="the hunt" />,
        errorElement: <PageError />,
      },
      {
        path: "/practice/:id/marks",
        lazy: async () => ({ Component: (await import("./practice/MarksPage.tsx")).MarksPage }),
        HydrateFallback: () => <Loading what="the marks" />,
        errorElement: <PageError />,
      },
      {
        path: "/sums",
        lazy: async () => ({ Component: (await import("./sums/SumsPage.tsx")).SumsPage }),
        HydrateFallback: () => <Loading what="the pocket sums" />,
        errorElement: <PageError />,
      },
      {
        path: "/help/:topic?",
        lazy: async () => ({ Component: (await import("./help/HelpPage.tsx")).HelpPage }),
        HydrateFallback: () => <Loading what="help" />,
        errorElement: <PageError />,
      },
      {
        path: "/workshop",
        lazy: async () => ({ Component: (await import("./workshop/WorkshopPage.tsx")).WorkshopPage }),
        HydrateFallback: () => <Loading what="the workshop" />,
        errorElement: <PageError />,
      },
      {
        path: "/pair",
        lazy: async () => ({ Component: (await import("./workshop/PairPage.tsx")).PairPage }),
        HydrateFallback: () => <Loading what="the page" />,
      },
      { path: "*", element: <NotFound /> },
    ],
  },
]);

const root = document.getElementById("root");
keepPages();
keepFocus();
if (root) {
  const outbox = await startOutbox(queries);
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <OutboxContext value={outbox}>
          <RouterProvider router={router} />
        </OutboxContext>
      </QueryClientProvider>
    </StrictMode>,
  );
}
