import { type ReactNode, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { dayOf, longDay, moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { useSettled } from "../../lib/useSettled";
import { useBrand } from "../../study/brand";
import { useAddress } from "../../study/useAddress";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { Cut } from "../../ui/Cut";
import { DateField } from "../../ui/DateField";
import { inputLook } from "../../ui/Field";
import { Empty, Failed, Loading } from "../../ui/States";
import { type LogChosen, type LogEntry, logAddress, useLog } from "./queries";
import { said, whoSaid } from "./rules";

/** What happened in a brand: who changed what, what it was before, and from where. */
export function LogPage() {
  const { brand, today } = useBrand();
  const { params, set } = useAddress();
  const chosen: LogChosen = {
    person: params.get("person") ?? "",
    subject: params.get("subject") ?? "",
    text: params.get("text") ?? "",
    first: params.get("from") ?? "",
    last: params.get("to") ?? "",
  };
  const log = useLog(brand.slug, chosen);
  const pages = log.data?.pages ?? [];
  const entries = pages.flatMap((page) => page.entries);
  const choices = pages.at(-1);
  const isNarrowed = Object.values(chosen).some((one) => one !== "");
  const people =
    choices?.people.map((one) => ({ value: String(one.id), label: whoSaid(one.name, one.id === 0) })) ?? [];
  const subjects = choices?.subjects.map((one) => ({ value: one.key, label: one.name })) ?? [];
  return (
    <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="log-title">
      <Link to={`/${brand.slug}/team`} className="label under inline-flex h-6 items-center hover:text-berry">
        The team
      </Link>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 id="log-title" className="text-[18px] leading-6">
          What happened
        </h1>
        <a href={logAddress(brand.slug, chosen)} download className="under ml-auto hover:text-berry">
          {isNarrowed ? "These as CSV" : "All as CSV"}
        </a>
      </div>
      <p>
        What{" "}
        <Choice
          label="By whom"
          value={chosen.person}
          options={[{ value: "", label: "anybody" }, ...people]}
          onChoose={(value) => set("person", value)}
        >
          {people.find((one) => one.value === chosen.person)?.label ?? "anybody"}
        </Choice>{" "}
        did to{" "}
        <Choice
          label="To what"
          value={chosen.subject}
          options={[{ value: "", label: "anything" }, ...subjects]}
          onChoose={(value) => set("subject", value)}
        >
          {subjects.find((one) => one.value === chosen.subject)?.label ?? "anything"}
        </Choice>
        . Nobody can change what stands here.
      </p>
      <Search text={chosen.text} onText={(text) => set("text", text)}>
        <span className="w-[150px]">
          <DateField aria-label="From" value={chosen.first} today={today} onChange={(day) => set("from", day)} />
        </span>
        <span className="w-[150px]">
          <DateField aria-label="To" value={chosen.last} today={today} onChange={(day) => set("to", day)} />
        </span>
        {isNarrowed && (
          <Link to={`/${brand.slug}/team/log`} className="under h-7 hover:text-berry">
            Everything
          </Link>
        )}
      </Search>
      {log.error ? (
        <Failed error={log.error} onRetry={() => log.refetch()} />
      ) : log.isPending ? (
        <Loading what="Loading what happened" />
      ) : entries.length === 0 ? (
        <Empty title={isNarrowed ? "Nothing like it happened" : "Nothing has happened yet"}>
          {isNarrowed
            ? "Other words, another person or other days may find it."
            : "Whatever somebody changes here stands on this page from then on, with what it was before."}
        </Empty>
      ) : (
        <Entries entries={entries} />
      )}
      {log.hasNextPage && (
        <Button className="mt-3" isBusy={log.isFetchingNextPage} onClick={() => log.fetchNextPage()}>
          Earlier ones
        </Button>
      )}
    </section>
  );
}

function Search({ text, onText, children }: { text: string; onText: (text: string) => void; children: ReactNode }) {
  const [typed, setTyped] = useState(text);
  const settled = useSettled(typed);
  const told = useRef(text);
  useEffect(() => {
    if (settled === told.current) return;
    told.current = settled;
    onText(settled);
  }, [settled, onText]);
  // What the address says by itself, by going back or by "Everything".
  useEffect(() => {
    if (text === told.current) return;
    told.current = text;
    setTyped(text);
  }, [text]);
  return (
    <search className="mt-2 mb-1 flex flex-wrap items-end gap-3">
      <label className="w-[260px] max-w-full">
        <span className="sr-only">Find in what happened</span>
        <input
          type="search"
          className={inputLook}
          placeholder="a name, a word, a value"
          maxLength={100}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      {children}
    </search>
  );
}

function Entries({ entries }: { entries: LogEntry[] }) {
  const { brand } = useBrand();
  const days = [...new Set(entries.map((one) => dayOf(one.at, brand.time_zone)))];
  return (
    <>
      {days.map((day) => (
        <section key={day} aria-label={longDay(day)}>
          <h2 className="mt-4 text-[15px]">{longDay(day)}</h2>
          <ul>
            {entries
              .filter((one) => dayOf(one.at, brand.time_zone) === day)
              .map((one) => (
                <Entry key={one.id} entry={one} />
              ))}
          </ul>
        </section>
      ))}
    </>
  );
}

function Entry({ entry }: { entry: LogEntry }) {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  const count = entry.rows.reduce((all, row) => all + Math.max(1, row.values.length), 0);
  const first = entry.rows.flatMap((row) => (row.way === "changed" ? row.values : []))[0];
  return (
    <li className="rowline">
      <button
        type="button"
        aria-expanded={isOpen}
        disabled={count === 0}
        onClick={() => setOpen(!isOpen)}
        className="grid w-full grid-cols-[52px_150px_minmax(0,3fr)_minmax(0,2fr)_110px] items-baseline gap-x-3 py-1.5 text-left hover:bg-panel disabled:hover:bg-transparent"
      >
        <span className="label">{moment(entry.at, brand.time_zone).slice(-5)}</span>
        <span className="font-semibold">
          <Cut>{whoSaid(entry.who, !entry.is_gone)}</Cut>
        </span>
        <span className="min-w-0">
          <Cut>
            {entry.words}
            {entry.name && entry.name !== entry.who ? `: ${entry.name}` : ""}
          </Cut>
        </span>
        <span className="label min-w-0">
          {first ? (
            <Cut>{`${first.name}: ${said(first.before)} → ${said(first.after)}`}</Cut>
          ) : count > 0 ? (
            plural(count, "value")
          ) : (
            ""
          )}
        </span>
        <span className="label truncate text-right" title={entry.address}>
          {entry.address}
        </span>
      </button>
      {isOpen && (
        <div className="mb-2 ml-[52px] border-l-2 border-rule pl-3 narrow:ml-0">
          {entry.rows.map((row, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows of one entry, which never change
            <table key={i} className="mb-2 w-full table-fixed">
              <caption className="label text-left">
                {row.thing} {row.name || row.number} {row.way}
              </caption>
              <thead className="sr-only">
                <tr>
                  <th>What</th>
                  <th>Before</th>
                  <th>After</th>
                </tr>
              </thead>
              <tbody>
                {row.values.map((value) => (
                  <tr key={value.name} className="align-baseline">
                    <th scope="row" className="label w-[150px] py-0.5 text-left font-normal">
                      {value.name}
                    </th>
                    <td className="py-0.5 pr-3 break-words text-muted">
                      {row.way === "made" ? "" : said(value.before)}
                    </td>
                    <td className="py-0.5 break-words">{row.way === "taken away" ? "" : said(value.after)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          ))}
          {entry.rows.length === 0 && <p className="label">Nothing of what it was is kept.</p>}
        </div>
      )}
    </li>
  );
}
