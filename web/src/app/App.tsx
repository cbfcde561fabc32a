import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { ProblemError } from "../api/client";
import { GuestPage } from "../areas/plan";
import { OpenedPage } from "../areas/reports";
import { BeginPage } from "../shell/BeginPage";
import { Shell } from "../shell/Shell";
import { SignIn, SignInAgain } from "../shell/SignIn";
import { AreasProvider } from "../study/areas";
import { noteError, useHasEnded } from "../study/ended";
import { useSession } from "../study/queries";
import { Failed, Loading } from "../ui/States";
import { Toasts } from "../ui/Toast";
import { AREAS } from "./areas";

const newClient = () =>
  new QueryClient({
    mutationCache: new MutationCache({ onError: noteError }),
    defaultOptions: {
      queries: {
        staleTime: 30_000,
        refetchOnWindowFocus: true,
        retry: (count, error) => {
          // Until somebody signs in again the question waits, and what is shown stays: nothing typed is taken away.
          if (error instanceof ProblemError && error.status === 401) {
            noteError(error);
            return true;
          }
          return count < 2 && !(error instanceof ProblemError && error.status >= 400 && error.status < 500);
        },
        retryDelay: (count, error) =>
          error instanceof ProblemError && error.status === 401 ? 1000 : Math.min(1000 * 2 ** count, 30_000),
      },
    },
  });

export function App() {
  const [client] = useState(newClient);
  return (
    <QueryClientProvider client={client}>
      <Toasts>
        <BrowserRouter>
          <AreasProvider value={AREAS}>
            <Routes>
              <Route path="/guest" element={<GuestPage />} />
              <Route path="/report" element={<OpenedPage />} />
              <Route path="/begin" element={<BeginPage />} />
              <Route path="*" element={<Door />} />
            </Routes>
          </AreasProvider>
        </BrowserRouter>
      </Toasts>
    </QueryClientProvider>
  );
}

function Door() {
  const session = useSession();
  const hasEnded = useHasEnded();
  if (session.isPending) return <Loading what="Loading" />;
  if (session.error instanceof ProblemError && session.error.status === 401) return <SignIn />;
  if (session.error) return <Failed error={session.error} onRetry={() => session.refetch()} />;
  const first =
    session.data?.brands.find((b) => b.slug === localStorage.getItem("dakika.brand")) ?? session.data?.brands.at(-1);
  if (!first) return <Failed error={new Error("You are not a member of any brand yet. Ask somebody of your team.")} />;
  return (
    <>
      {hasEnded && <SignInAgain />}
      <Routes>
        <Route path="/" element={<Navigate to={`/${first.slug}/results`} replace />} />
        <Route path="/share" element={<Navigate to={`/${first.slug}/plan/ideas/new${location.search}`} replace />} />
        <Route path="/:brand" element={<Shell />}>
          <Route index element={<Navigate to="results" replace />} />
          {AREAS.map((area) => (
            <Fragment key={area.path}>{area.routes}</Fragment>
          ))}
          <Route path="*" element={<Failed error={new Error("There is no page at this address.")} />} />
        </Route>
      </Routes>
    </>
  );
}
