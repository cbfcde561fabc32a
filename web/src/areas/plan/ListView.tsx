import { Fragment, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { longDay, timeOf } from "../../lib/days";
import { figure, short } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { Empty } from "../../ui/States";
import { type Expected, sumOf } from "./Chips";
import type { Entry, Out } from "./queries";
import { EDITABLE, onDay, STATE_WORDS } from "./rules";
import { SeveralBar } from "./SeveralBar";

type Props = { days: string[]; planned: Entry[]; plan: Schemas["Plan"] | undefined; expected: Expected };

/** Day after day, what is planned and what is out, to be read from above to below. */
export function ListView({ days, planned, plan, expected }: Props) {
  const { brand, today, can } = useBrand();
  const zone = brand.time_zone;
  const canChange = can("plan.write");
  const [picked, setPicked] = useState<Set<number>>(new Set());
  const chosen = planned.filter((one) => picked.has(one.id));
  const toggle = (id: number) => {
    const next = new Set(picked);
    if (!next.delete(id)) next.add(id);
    setPicked(next);
  };
  const shown = days
    .map((day) => ({
      day,
      holidays: plan?.days.filter((one) => one.day === day) ?? [],
      notes: plan?.notes.filter((one) => one.first <= day && day <= one.last) ?? [],
      items: [
        ...onDay<Entry | Out>(planned, (p) => ("versions" in p ? p.at : null), day, zone),
        ...onDay<Entry | Out>(
          (plan?.published ?? []).filter((p) => p.planned === null),
          (p) => p.at,
          day,
          zone,
        ),
      ].sort((a, b) => a.instant.localeCompare(b.instant)),
    }))
    .filter((one) => one.items.length || one.notes.length || one.holidays.length);
  if (shown.length === 0) {
    return <Empty title="Nothing in these four weeks">What is planned or published stands here, day after day.</Empty>;
  }
  return (
    <div className="min-w-0 overflow-y-auto px-5 py-2 narrow:px-3" role="region" aria-label="List" tabIndex={0}>
      <SeveralBar chosen={chosen} onNone={() => setPicked(new Set())} />
      <table className="w-full table-fixed border-collapse text-left">
        <colgroup>
          <col className={canChange ? "w-[80px]" : "w-[52px]"} />
          <col />
          <col className="w-[64px]" />
          <col className="w-[104px]" />
        </colgroup>
        <tbody>
          {shown.map(({ day, holidays, notes, items }) => (
            <Fragment key={day}>
              <tr>
                <th
                  colSpan={4}
                  scope="rowgroup"
                  className={`border-b border-rule-strong pt-3 pb-0.5 text-[15px] ${day === today ? "text-berry" : ""}`}
                >
                  {longDay(day)}
                  <span className="label ml-2 font-normal">
                    {[...holidays.map((one) => one.name), ...notes.map((one) => one.text)].join(", ")}
                  </span>
                </th>
              </tr>
              {items.map(({ item, instant }) =>
                "versions" in item ? (
                  <Row
                    key={`p${item.id}`}
                    entry={item}
                    isPicked={picked.has(item.id)}
                    canPick={canChange}
                    onPick={canChange && EDITABLE.has(item.state) ? () => toggle(item.id) : undefined}
                    time={timeOf(instant, zone)}
                    expected={expected.find((e) => e.id === item.id)}
                  />
                ) : (
                  <OutRow key={`x${item.id}`} post={item} time={timeOf(instant, zone)} />
                ),
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
    </div>
  );
}

type RowProps = {
  entry: Entry;
  time: string;
  expected?: Expected[number];
  isPicked: boolean;
  canPick: boolean;
  onPick?: () => void;
};

function Row({ entry, time, expected, isPicked, canPick, onPick }: RowProps) {
  const { brand, networks } = useBrand();
  const state = STATE_WORDS[entry.state] ?? { word: entry.state, tone: "quiet" as const };
  const sum = sumOf(expected);
  return (
    <tr className="rowline align-top">
      <td className="py-1">
        <span className="flex items-center gap-1.5">
          {onPick && (
            <label className="flex h-6 w-6 items-center">
              <input
                type="checkbox"
                aria-label={`Choose ${entry.title || entry.text || "a post"}`}
                className="h-4 w-4 accent-(--berry)"
                checked={isPicked}
                onChange={onPick}
              />
            </label>
          )}
          <span className={canPick && !onPick ? "pl-[30px]" : ""}>{time}</span>
        </span>
      </td>
      <td className="py-1 pr-3">
        <Link to={`/${brand.slug}/plan/${entry.id}`} className="font-semibold hover:text-berry">
          {entry.title || entry.text || "untitled"}
        </Link>
        {entry.title && <span className="label line-clamp-1">{entry.text}</span>}
      </td>
      <td className="py-1 pr-3">
        <span className="flex flex-wrap gap-1">
          {entry.versions.map((v) => (
            <NetworkMark key={v.id} network={networkNamed(networks, v.network)} />
          ))}
        </span>
      </td>
      <td className="py-1 text-right">
        <StateWord tone={state.tone}>{state.word}</StateWord>
        {sum !== null && <span className="label block">≈ {short(sum)} expected</span>}
      </td>
    </tr>
  );
}

function OutRow({ post, time }: { post: Out; time: string }) {
  const { brand, networks } = useBrand();
  return (
    <tr className="rowline align-top text-muted">
      <td className="py-1">{time}</td>
      <td className="py-1 pr-3">
        <Link to={`/${brand.slug}/results/posts/${post.id}`} className="line-clamp-2 hover:text-berry">
          {post.text || post.format.replaceAll("_", " ")}
        </Link>
      </td>
      <td className="py-1 pr-3">
        <NetworkMark network={networkNamed(networks, post.network)} />
      </td>
      <td className="py-1 text-right">
        {post.index === null ? "" : `${figure(post.index, "index")} times its usual`}
        {post.interactions !== null && <span className="label block">{short(post.interactions)} interactions</span>}
      </td>
    </tr>
  );
}
