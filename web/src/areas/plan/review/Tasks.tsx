import { useState } from "react";
import { Link } from "react-router";
import { shortDay } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { usePeople } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { DateField } from "../../../ui/DateField";
import { inputLook } from "../../../ui/Field";
import { useToast } from "../../../ui/Toast";
import { type Task, useAddTask, useFinishTask, useTasks } from "./queries";

/** What somebody is to do about a post. */
export function TasksOf({ planned }: { planned: number }) {
  const { brand, can } = useBrand();
  const open = useTasks(brand.slug, { planned }).data ?? [];
  if (open.length === 0 && !can("plan.write")) return null;
  return (
    <section className="mt-4" aria-label="To be done">
      <h2 className="text-[16px]">To be done</h2>
      <TaskList tasks={open} />
      {can("plan.write") && <AddTask planned={planned} />}
    </section>
  );
}

/** Tasks in their order, each taken as done where it stands. */
export function TaskList({ tasks, isOfAll }: { tasks: Task[]; isOfAll?: boolean }) {
  const { brand, today } = useBrand();
  const finish = useFinishTask(brand.slug);
  const say = useToast();
  return (
    <ul>
      {tasks.map((task) => (
        <li key={task.id} className="rowline flex items-baseline gap-2 py-1">
          <input
            type="checkbox"
            className="h-4 w-4 shrink-0 self-center accent-berry"
            aria-label={`Done: ${task.text}`}
            checked={task.done_at !== null}
            onChange={(event) =>
              finish.mutate(
                { id: task.id, is_done: event.target.checked },
                { onError: (error) => say(error.message, "wrong") },
              )
            }
          />
          <span className="min-w-0 flex-1 break-words">
            {task.text}
            <span className="label block">
              {task.person_name}
              {task.due_on && (
                <span className={task.done_at === null && task.due_on < today ? "text-down" : ""}>
                  , by {shortDay(task.due_on)}
                  {task.done_at === null && task.due_on < today && " (overdue)"}
                </span>
              )}
              {isOfAll && task.planned && (
                <>
                  ,{" "}
                  <Link to={`/${brand.slug}/plan/${task.planned}`} className="under hover:text-berry">
                    {task.planned_title || "its post"}
                  </Link>
                </>
              )}
              {isOfAll && task.campaign_name && `, ${task.campaign_name}`}
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** Giving somebody something to do. */
export function AddTask({ planned }: { planned?: number }) {
  const { brand, today } = useBrand();
  const people = usePeople(brand.slug).data ?? [];
  const add = useAddTask(brand.slug);
  const [text, setText] = useState("");
  const [person, setPerson] = useState<number>();
  const [due, setDue] = useState("");
  const whose = person ?? people.find((one) => one.is_me)?.id;
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (whose)
          add.mutate(
            { text, person: whose, due_on: due || null, planned: planned ?? null, campaign: null },
            { onSuccess: () => setText("") },
          );
      }}
    >
      <input
        aria-label="What is to be done"
        placeholder="What is to be done"
        maxLength={300}
        className={`${inputLook} min-w-[180px] flex-1`}
        style={{ width: "auto" }}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <select
        aria-label="By whom"
        className={inputLook}
        style={{ width: "auto" }}
        value={whose ?? ""}
        onChange={(event) => setPerson(Number(event.target.value))}
      >
        {people.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
            {one.is_me && " (you)"}
          </option>
        ))}
      </select>
      <span className="w-[150px]">
        <DateField aria-label="Until when" today={today} value={due} onChange={setDue} />
      </span>
      <Button type="submit" disabled={!text.trim() || !whose} isBusy={add.isPending}>
        Add it
      </Button>
      {add.error && (
        <p role="alert" className="w-full text-down">
          {add.error.message}
        </p>
      )}
    </form>
  );
}
