import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Fragment, Suspense, useState } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { ProblemError } from "../api/client";
import { GuestPage } from "../areas/plan";
import { OpenedPage } from "../areas/reports";
import { lazyPage } from "../lib/lazyPage";
import { Outside } from "../shell/Outside";
import { Shell } from "../shell/Shell";
import { AreasProvider } from "../study/areas";
import { noteError, useHasEnded } from "../study/ended";
import { useSession, useSignOut } from "../study/queries";
import { Button } from "../ui/Button";
import { Failed, Loading } from "../ui/States";
import { Toasts } from "../ui/Toast";
import { AREAS } from "./areas";

// Pages that one sees once, fetched when one does.
const SignIn = lazyPage(() => import("../shell/SignIn"), "SignIn");
const SignInAgain = lazyPage(() => import("../shell/SignIn"), "SignInAgain");
const BeginPage = lazyPage(() => import("../shell/BeginPage"), "BeginPage");
const JoinPage = lazyPage(() => import("../shell/JoinPage"), "JoinPage");
const ResetPage = lazyPage(() => import("../shell/ResetPage"), "ResetPage");
const AddressPage = lazyPage(() => import("../shell/AddressPage"), "AddressPage");

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
            <Suspense fallback={<Loading />}>
              <Routes>
                <Route path="/guest" element={<GuestPage />} />
                <Route path="/report" element={<OpenedPage />} />
                <Route path="/begin" element={<BeginPage />} />
                <Route path="/join" element={<JoinPage />} />
                <Route path="/reset" element={<ResetPage />} />
                <Route path="/address" element={<AddressPage />} />
                <Route path="*" element={<Door />} />
              </Routes>
            </Suspense>
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
  if (!first) return <NoBrand name={session.data?.name ?? ""} />;
  return (
    <>
      {hasEnded && (
        <Suspense fallback={null}>
          <SignInAgain />
        </Suspense>
      )}
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

function NoBrand({ name }: { name: string }) {
  const signOut = useSignOut();
  return (
    <Outside
      title="No brand is yours yet"
      says={`You are signed in as ${name} and work for no brand. Ask an admin of one to invite you: the letter leads you in.`}
    >
      <Button className="self-start" isBusy={signOut.isPending} onClick={() => signOut.mutate()}>
        Sign out
      </Button>
    </Outside>
  );
}
