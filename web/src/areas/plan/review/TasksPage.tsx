import { Link, useSearchParams } from "react-router";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useTasks } from "./queries";
import { AddTask, TaskList } from "./Tasks";

const LISTS = { mine: "mine", all: "everybody's", done: "done" } as const;

/** What is to be done for the brand: mine first. */
export function TasksPage() {
  const { brand, can } = useBrand();
  const [params, setParams] = useSearchParams();
  const asked = params.get("of");
  const which: keyof typeof LISTS = asked === "all" || asked === "done" ? asked : "mine";
  const tasks = useTasks(brand.slug, which === "mine" ? { mine: true } : { is_done: which === "done" });
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-x-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <h1 className="text-[16px]">To be done</h1>
        {(Object.keys(LISTS) as (keyof typeof LISTS)[]).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={which === one}
            onClick={() => setParams(one === "mine" ? {} : { of: one })}
            className="h-7 px-1 aria-pressed:border-b-2 aria-pressed:border-berry"
          >
            {LISTS[one]}
          </button>
        ))}
      </div>
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3 narrow:px-3" aria-label="Tasks">
        <div className="max-w-[760px]">
          {can("plan.write") && <AddTask />}
          {tasks.error ? (
            <Failed error={tasks.error} onRetry={() => tasks.refetch()} />
          ) : !tasks.data ? (
            <Loading what="Loading what is to be done" />
          ) : tasks.data.length === 0 ? (
            <Empty title={which === "mine" ? "Nothing waits for you" : "Nothing here"}>
              Tasks can be given here, or beside a post while it is written.
            </Empty>
          ) : (
            <TaskList tasks={tasks.data} isOfAll />
          )}
        </div>
      </section>
    </>
  );
}
