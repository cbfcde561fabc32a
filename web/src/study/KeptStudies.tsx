import { lazy, Suspense, useState } from "react";
import { Sheet } from "../ui/Sheet";
import { Loading } from "../ui/States";

const StudiesList = lazy(() => import("./StudiesList").then((found) => ({ default: found.StudiesList })));

/** The studies that the team keeps, and a way to keep this one; behind one word beside the sentence. */
export function KeptStudies() {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="under h-6 hover:text-berry" onClick={() => setOpen(true)}>
        Kept studies
      </button>
      <Sheet isOpen={isOpen} onClose={() => setOpen(false)} title="Kept studies">
        <Suspense fallback={<Loading />}>
          <StudiesList onChosen={() => setOpen(false)} />
        </Suspense>
      </Sheet>
    </>
  );
}
