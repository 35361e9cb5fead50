/** The application: providers, routes, and what is on every page. */

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, type ReactElement, Suspense } from "react";
import { BrowserRouter, Route, Routes, useLocation } from "react-router";
import { useServiceNotices } from "@/app/useServiceNotices";
import { Wall } from "@/features/wall/Wall";
import { useMessages } from "@/state/messages";
import { GlobalStyle } from "@/theme/GlobalStyle";
import { Boundary } from "@/ui/Boundary";
import { Messages } from "@/ui/Messages";

// The wall shows without waiting for what the desk needs.
const Desk = lazy(async () => ({ default: (await import("@/features/desk/Desk")).Desk }));

const VersionsPage = lazy(async () => ({
  default: (await import("@/features/versions/VersionsPage")).VersionsPage,
}));

const FinishPage = lazy(async () => ({
  default: (await import("@/features/finish/FinishPage")).FinishPage,
}));

const PlanPage = lazy(async () => ({
  default: (await import("@/features/plan/PlanPage")).PlanPage,
}));

const ManyPage = lazy(async () => ({
  default: (await import("@/features/plan/ManyPage")).ManyPage,
}));

const client = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } },
});

export function App(): ReactElement {
  return (
    <QueryClientProvider client={client}>
      <GlobalStyle />
      <BrowserRouter>
        <Pages />
      </BrowserRouter>
    </QueryClientProvider>
  );
}

function Pages(): ReactElement {
  useServiceNotices();
  const { pathname } = useLocation();
  const messages = useMessages((state) => state.messages);
  const dismiss = useMessages((state) => state.dismiss);
  return (
    <>
      <Boundary what="This page" of={[pathname]}>
        <Suspense fallback={<p aria-busy="true">Opening…</p>}>
          <Routes>
            <Route path="/desk/:projectId" element={<Desk />} />
            <Route path="/versions/:projectId" element={<VersionsPage />} />
            <Route path="/finish/:projectId" element={<FinishPage />} />
            <Route path="/plan/:planName/many" element={<ManyPage />} />
            <Route path="/plan/:planName" element={<PlanPage />} />
            <Route path="*" element={<Wall />} />
          </Routes>
        </Suspense>
      </Boundary>
      <Messages messages={messages} onDismiss={dismiss} />
    </>
  );
}
