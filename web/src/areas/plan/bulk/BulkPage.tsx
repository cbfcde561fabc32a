import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { ProblemError } from "../../../api/client";
import { moment } from "../../../lib/days";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { Button } from "../../../ui/Button";
import { Empty, Failed, Loading, Notice } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { Columns } from "./Columns";
import { Pictures } from "./Pictures";
import { type Batch, useBatch, useBatchActs, useBatches, useBringTable } from "./queries";
import { Rows } from "./Rows";
import { FIELDS } from "./rules";

/** Many posts from one table: brought, looked over row by row, made together, taken back together. */
export function BulkPage() {
  const { brand } = useBrand();
  const { batch: id } = useParams();
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] items-center gap-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        {id && (
          <Link to={`/${brand.slug}/plan/many`} className="under hover:text-berry">
            All tables
          </Link>
        )}
        <h1 className="text-[16px]">Many posts at once</h1>
      </div>
      {id ? <One id={Number(id)} /> : <Tables />}
    </>
  );
}

function Tables() {
  const { brand, can } = useBrand();
  const batches = useBatches(brand.slug);
  const bring = useBringTable(brand.slug);
  const navigate = useNavigate();
  const error = bring.error as ProblemError | null;
  return (
    <section className="min-h-0 flex-1 overflow-y-auto px-5 py-4 narrow:px-3" aria-label="Tables of posts">
      <div className="max-w-[720px]">
        {can("plan.write") && (
          <>
            <p>
              A table of up to 1,000 posts, a row each, as CSV or a workbook. Columns are found by their names:{" "}
              {Object.values(FIELDS).slice(0, 9).join(", ").toLowerCase()}. Nothing is made before you have looked at
              it.
            </p>
            <label className="mt-3 inline-flex h-8 cursor-pointer items-center rounded-[2px] bg-berry px-3 font-semibold text-on-berry focus-within:outline-2 hover:opacity-90">
              {bring.isPending ? "Reading the table" : "Choose a table"}
              <input
                type="file"
                aria-label="Choose a table"
                className="sr-only"
                accept=".csv,.tsv,.txt,.xlsx,.ods,.json"
                disabled={bring.isPending}
                onChange={(event) => {
                  const file = event.target.files?.[0];
                  event.target.value = "";
                  if (file)
                    bring.mutate(file, { onSuccess: (made) => navigate(`/${brand.slug}/plan/many/${made.id}`) });
                }}
              />
            </label>
            {error && (
              <div className="mt-3">
                <Notice kind="wrong">{error.fields.file ?? error.message}</Notice>
              </div>
            )}
          </>
        )}
        {batches.error ? (
          <Failed error={batches.error} onRetry={() => batches.refetch()} />
        ) : !batches.data ? (
          <Loading what="Loading the tables" />
        ) : batches.data.length === 0 ? (
          <Empty title="No table was brought yet">Those that are stand here, with what was made of them.</Empty>
        ) : (
          <ul className="mt-4">
            {batches.data.map((one) => (
              <li key={one.id} className="rowline">
                <Link to={`/${brand.slug}/plan/many/${one.id}`} className="block py-1.5 hover:text-berry">
                  <span className="font-semibold">{one.name}</span>
                  <span className="label block">
                    {moment(one.made_at, brand.time_zone)}, {plural(one.rows, "row")}; {stateWords(one)}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        )}
      </div>
    </section>
  );
}

const stateWords = ({ state, made }: Pick<Batch, "state" | "made">) =>
  ({
    checked: "nothing made yet",
    making: `being made, ${made} so far`,
    made: `${plural(made, "post")} made`,
    undone: "taken back",
  })[state];

function One({ id }: { id: number }) {
  const { brand } = useBrand();
  const batch = useBatch(brand.slug, id);
  if (batch.error) return <Failed error={batch.error} onRetry={() => batch.refetch()} />;
  if (!batch.data) return <Loading what="Checking each row by the rules of its networks" />;
  return <Looked key={batch.data.id} batch={batch.data} />;
}

function Looked({ batch }: { batch: Batch }) {
  const { brand, can } = useBrand();
  const acts = useBatchActs(brand.slug, batch.id);
  const navigate = useNavigate();
  const say = useToast();
  const [isWrongOnly, setWrongOnly] = useState(false);
  const [isOther, setOther] = useState(false);
  const isOpen = batch.state === "checked" && can("plan.write");
  const bad = batch.rows.length - batch.good;
  const error = (acts.make.error ?? acts.takeBack.error ?? acts.throwAway.error) as ProblemError | null;
  const missed = batch.rows.filter((row) => row.made_problem).length;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[300px_minmax(0,1fr)]">
      <section
        className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3 narrow:px-3"
        aria-label="How it is read"
      >
        <h2 className="break-words text-[18px]">{batch.name}</h2>
        {batch.left_out > 0 && (
          <Notice kind="wrong">{`${plural(batch.left_out, "row")} beyond the first thousand were left out.`}</Notice>
        )}
        <Columns batch={batch} isEditable={isOpen} acts={acts} onOther={setOther} />
        {isOpen && can("media.change") && <Pictures batch={batch} />}
      </section>
      <section className="flex min-h-0 min-w-0 flex-col" aria-label="Rows">
        <div className="flex flex-wrap items-center gap-3 border-b border-rule px-5 py-2 narrow:px-3">
          <p role="status" className="font-semibold">
            {batch.state === "making"
              ? `${batch.made} of ${batch.good} posts are made. You can leave this page.`
              : isOther && isOpen
                ? "Read it so first: the rows below are as they were read before."
                : batch.state === "made"
                  ? `${plural(batch.made, "post")} made${missed ? `; ${missed} could not be, see below` : ""}.`
                  : batch.state === "undone"
                    ? "All of it was taken back."
                    : bad === 0
                      ? `All ${plural(batch.good, "row")} are right.`
                      : `${batch.good} of ${plural(batch.rows.length, "row")} are right, ${bad} are not.`}
          </p>
          {bad > 0 && batch.state === "checked" && (
            <>
              <button
                type="button"
                aria-pressed={isWrongOnly}
                className="under h-6 hover:text-berry aria-pressed:text-berry"
                onClick={() => setWrongOnly(!isWrongOnly)}
              >
                {isWrongOnly ? "show all" : "show the wrong ones"}
              </button>
              <a
                href={`/api/brands/${brand.slug}/plan/batches/${batch.id}/wrong`}
                className="under hover:text-berry"
                download
              >
                as a file
              </a>
            </>
          )}
          <span className="ml-auto flex flex-wrap gap-2">
            {isOpen && !isOther && bad === 0 && (
              <Button kind="main" isBusy={acts.make.isPending} onClick={() => acts.make.mutate(false)}>
                Make {plural(batch.good, "post")}
              </Button>
            )}
            {isOpen && !isOther && bad > 0 && batch.good > 0 && (
              <Button kind="main" isBusy={acts.make.isPending} onClick={() => acts.make.mutate(true)}>
                {batch.good === 1 ? "Make the good one" : `Make the ${batch.good} good ones`}
              </Button>
            )}
            {batch.state === "made" && can("plan.write") && (
              <Button
                kind="danger"
                isBusy={acts.takeBack.isPending}
                onClick={() =>
                  acts.takeBack.mutate(undefined, {
                    onSuccess: ({ posts }) => say(`${plural(posts, "post")} are thrown away.`),
                  })
                }
              >
                Take all of it back
              </Button>
            )}
            {can("plan.write") && batch.state !== "making" && (
              <Button
                onClick={() =>
                  acts.throwAway.mutate(undefined, { onSuccess: () => navigate(`/${brand.slug}/plan/many`) })
                }
              >
                Throw the table away
              </Button>
            )}
          </span>
          {error && (
            <div className="w-full">
              <Notice kind="wrong">{Object.values(error.fields)[0] ?? error.message}</Notice>
            </div>
          )}
        </div>
        <Rows
          rows={isWrongOnly ? batch.rows.filter((row) => !row.is_good) : batch.rows}
          isEditable={isOpen}
          mend={acts.mend}
        />
      </section>
    </div>
  );
}
