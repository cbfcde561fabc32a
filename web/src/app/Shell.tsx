import { Suspense, useCallback, useState } from "react";
import { Outlet, useLocation } from "react-router";
import { Boundary } from "../ui/Boundary";
import { Loading } from "../ui/States";
import { BrandProvider, useBrand } from "./brand";
import { Header } from "./Header";
import { Keys } from "./Keys";
import { useWatchForLater } from "./later";
import { Palette } from "./Palette";
import { useShellKeys } from "./useShellKeys";

export function Shell() {
  return (
    <BrandProvider>
      <Frame />
    </BrandProvider>
  );
}

function Frame() {
  const { brand } = useBrand();
  const { pathname } = useLocation();
  const [open, setOpen] = useState<"palette" | "keys" | null>(null);
  const onPalette = useCallback(() => setOpen("palette"), []);
  const onKeys = useCallback(() => setOpen("keys"), []);
  useWatchForLater();
  useShellKeys(brand.slug, onPalette, onKeys);
  return (
    <div className="flex h-screen min-w-[1000px] flex-col overflow-hidden print:block print:h-auto print:min-w-0 print:overflow-visible">
      <a href="#work" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2">
        To the content
      </a>
      <Header onPalette={onPalette} />
      <main id="work" tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none print:block">
        <Boundary place={pathname}>
          <Suspense fallback={<Loading />}>
            <Outlet />
          </Suspense>
        </Boundary>
      </main>
      <Palette isOpen={open === "palette"} onClose={() => setOpen(null)} />
      <Keys isOpen={open === "keys"} onClose={() => setOpen(null)} />
    </div>
  );
}
