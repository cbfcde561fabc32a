import { Suspense, useCallback, useState } from "react";
import { Outlet, useLocation, useSearchParams } from "react-router";
import { BasisProvider } from "../figures/FigureValue";
import { useParts } from "../study/areas";
import { BrandProvider, useBrand } from "../study/brand";
import { useWatchForLater } from "../study/later";
import { useListening } from "../study/listening";
import { wrongPeriod } from "../study/study";
import { Boundary } from "../ui/Boundary";
import { Button } from "../ui/Button";
import { Empty, Loading } from "../ui/States";
import { DemoStrip } from "./DemoStrip";
import { Header } from "./Header";
import { Keys } from "./Keys";
import { Palette } from "./Palette";
import { useShellKeys } from "./useShellKeys";

export function Shell() {
  return (
    <BrandProvider>
      <BasisProvider>
        <Frame />
      </BasisProvider>
    </BrandProvider>
  );
}

const withoutPeriod = (old: URLSearchParams) => {
  const next = new URLSearchParams(old);
  next.delete("first");
  next.delete("last");
  return next;
};

function Frame() {
  const { brand } = useBrand();
  const { pathname } = useLocation();
  const [params, setParams] = useSearchParams();
  const wrong = useParts() === null ? "" : wrongPeriod(params);
  const [open, setOpen] = useState<"palette" | "keys" | null>(null);
  const onPalette = useCallback(() => setOpen("palette"), []);
  const onKeys = useCallback(() => setOpen("keys"), []);
  useWatchForLater();
  useListening();
  useShellKeys(brand.slug, onPalette, onKeys);
  return (
    <div className="flex h-screen flex-col overflow-hidden narrow:block narrow:h-auto narrow:min-h-screen narrow:overflow-visible print:block print:h-auto print:overflow-visible">
      <a href="#work" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2">
        To the content
      </a>
      <Header onPalette={onPalette} />
      <DemoStrip />
      <main id="work" tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none narrow:min-w-0 print:block">
        <Boundary place={pathname}>
          <Suspense fallback={<Loading />}>
            {wrong ? (
              <Empty
                title="These days cannot be shown"
                action={
                  <Button kind="main" onClick={() => setParams(withoutPeriod)}>
                    The last 28 days
                  </Button>
                }
              >
                {wrong}
              </Empty>
            ) : (
              <Outlet />
            )}
          </Suspense>
        </Boundary>
      </main>
      <Palette isOpen={open === "palette"} onClose={() => setOpen(null)} />
      <Keys isOpen={open === "keys"} onClose={() => setOpen(null)} />
    </div>
  );
}
