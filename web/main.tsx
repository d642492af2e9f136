import "@fontsource-variable/archivo/wdth.css";
import "@fontsource-variable/spline-sans-mono";
import "./styles.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode, Suspense, lazy } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter } from "react-router";
import { RouterProvider } from "react-router/dom";
import { Broken, Missing } from "./app/Missing";
import { Messages } from "./app/Messages";
import { OutboxBar } from "./app/OutboxBar";
import { OutboxWatch } from "./app/OutboxWatch";
import { MoneyWatch } from "./app/workshopMoney";
import { openOutbox } from "./app/outbox";
import { PreferencesProvider } from "./app/preferences";
import { takeTypedBeforeLeaving } from "./app/takeTyped";
import { StaleQuestion } from "./app/saveAgainst";

const queries = new QueryClient({
  defaultOptions: { queries: { staleTime: 30_000, retry: 1, refetchOnWindowFocus: true } },
});

const CraftPage = lazy(() => import("./app/CraftPage").then((m) => ({ default: m.CraftPage })));
const Workshop = lazy(() => import("./workshop/Workshop").then((m) => ({ default: m.Workshop })));

// Before the router hears of another address.
takeTypedBeforeLeaving();

const router = createBrowserRouter([
  { path: "/", element: <Workshop />, errorElement: <Broken /> },
  { path: "/craft/:slug/:label?/:station?", element: <CraftPage />, errorElement: <Broken /> },
  { path: "*", element: <Missing what="page" /> },
]);

void openOutbox();

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <PreferencesProvider>
          <Suspense fallback={null}>
            <RouterProvider router={router} />
          </Suspense>
          <MoneyWatch />
          <OutboxWatch />
          <OutboxBar />
          <StaleQuestion />
          <Messages />
        </PreferencesProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
