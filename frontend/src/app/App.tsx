/** The application: providers, routes, and what is on every page. */

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { BrowserRouter, Route, Routes } from "react-router";
import { useServiceNotices } from "@/app/useServiceNotices";
import { Desk } from "@/features/desk/Desk";
import { Wall } from "@/features/wall/Wall";
import { useMessages } from "@/state/messages";
import { GlobalStyle } from "@/theme/GlobalStyle";
import { Messages } from "@/ui/Messages";

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
  const messages = useMessages((state) => state.messages);
  const dismiss = useMessages((state) => state.dismiss);
  return (
    <>
      <Routes>
        <Route path="/desk/:projectId" element={<Desk />} />
        <Route path="*" element={<Wall />} />
      </Routes>
      <Messages messages={messages} onDismiss={dismiss} />
    </>
  );
}
