import { useState } from "react";
import { Link } from "react-router";
import { useBrand } from "../study/brand";
import type { Study } from "../study/study";
import { Button } from "../ui/Button";
import { Sheet } from "../ui/Sheet";
import { Empty, Failed, Loading } from "../ui/States";
import { useToast } from "../ui/Toast";
import type { Drawing } from "./drawing/set";
import { type Of, usePutInto, useReportsForFigures } from "./queries";

type Props = {
  kind: string;
  params?: Of["params"];
  drawing: Drawing;
  title: string;
  study: Study;
  onClose: () => void;
};

/** Into which report a figure goes; its study goes with it, the days too, unless the report's own are wanted. */
export function PutIntoReport({ kind, params, drawing, title, study, onClose }: Props) {
  const { brand } = useBrand();
  const say = useToast();
  const reports = useReportsForFigures(brand.slug);
  const { put, make } = usePutInto(brand.slug);
  const [isMoving, setMoving] = useState(true);
  const [done, setDone] = useState<{ report: number; page: string } | null>(null);
  const { first, last, compare, ...narrow } = study;
  const asked = isMoving ? narrow : { first, last, compare, ...narrow };
  const told = Object.fromEntries(
    Object.entries(asked).flatMap(([name, value]) => (value === undefined ? [] : [[name, String(value)]])),
  );
  const into = async (report: number) => {
    const given = Object.entries(params ?? {}).flatMap(([name, value]) =>
      value === undefined ? [] : [[name, String(value)]],
    );
    try {
      setDone(
        await put.mutateAsync({
          id: report,
          body: {
            kind,
            params: Object.fromEntries(given),
            study: Object.keys(told).length > 0 ? told : null,
            drawing,
            title,
            page: "",
          },
        }),
      );
    } catch (error) {
      say((error as Error).message, "wrong");
    }
  };
  return (
    <Sheet isOpen onClose={onClose} title="Put into a report" form="dialog">
      {done ? (
        <p>
          It stands in the report.{" "}
          <Link
            to={`/${brand.slug}/reports/${done.report}?page=${done.page}`}
            className="under font-semibold hover:text-berry"
          >
            Open it there
          </Link>
        </p>
      ) : reports.error ? (
        <Failed error={reports.error} onRetry={() => reports.refetch()} />
      ) : !reports.data ? (
        <Loading />
      ) : (
        <>
          <fieldset className="mb-3 flex flex-col gap-1">
            <legend className="label">Its days</legend>
            <label className="flex items-center gap-2">
              <input type="radio" checked={isMoving} onChange={() => setMoving(true)} className="accent-(--berry)" />
              those of the report, which move with it
            </label>
            <label className="flex items-center gap-2">
              <input type="radio" checked={!isMoving} onChange={() => setMoving(false)} className="accent-(--berry)" />
              {first} to {last}, always
            </label>
          </fieldset>
          {reports.data.reports.length === 0 && (
            <Empty title="No report yet">It becomes the first figure of a new one.</Empty>
          )}
          <ul aria-busy={put.isPending}>
            {reports.data.reports.map((one) => (
              <li key={one.id} className="rowline">
                <button type="button" className="w-full py-1.5 text-left hover:text-berry" onClick={() => into(one.id)}>
                  {one.title}
                  {one.label && <span className="label ml-2">{one.label}</span>}
                </button>
              </li>
            ))}
          </ul>
          <Button
            className="mt-3"
            isBusy={make.isPending}
            onClick={() =>
              make.mutateAsync().then(
                (made) => into(made.id),
                (error: Error) => say(error.message, "wrong"),
              )
            }
          >
            A new report
          </Button>
        </>
      )}
    </Sheet>
  );
}
