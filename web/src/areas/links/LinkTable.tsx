import { useState } from "react";
import { Link } from "react-router";
import { FigureValue } from "../../figures/FigureValue";
import { figure, since } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { CopyButton } from "../../ui/CopyButton";
import { Cut } from "../../ui/Cut";
import { NetworkMark } from "../../ui/Marks";
import type { TrackedLink } from "./queries";

const SHOWN = 60;

/** Links, most clicked first. */
export function LinkTable({ links, query }: { links: TrackedLink[]; query: string }) {
  const { brand, now, networks } = useBrand();
  const [shown, setShown] = useState(SHOWN);
  const max = Math.max(1, ...links.map((l) => l.clicks_in_period));
  return (
    <>
      <table className="mt-2 w-full table-fixed">
        <thead className="label text-left">
          <tr className="h-7 border-b border-rule-strong">
            <th className="font-normal">Link</th>
            <th className="w-[142px] font-normal">Campaign</th>
            <th className="w-[96px] font-normal">Short</th>
            <th className="w-[92px] text-right font-normal">Clicks</th>
            <th className="w-[60px] text-right font-normal">Before</th>
            <th className="w-[52px] text-right font-normal">Bots</th>
            <th className="w-[60px] text-right font-normal">Ever</th>
            <th className="w-[50px] text-right font-normal">Posts</th>
            <th className="w-[76px] text-right font-normal">Last</th>
          </tr>
        </thead>
        <tbody>
          {links.slice(0, shown).map((link) => {
            const network = networkNamed(networks, link.network);
            const isOver = link.is_paused || (link.ends_at !== null && new Date(link.ends_at) <= now);
            return (
              <tr key={link.id} className={`rowline h-7 hover:bg-panel ${isOver ? "text-muted" : ""}`}>
                <td className="pr-3">
                  <span className="flex items-center gap-1.5">
                    {link.network && <NetworkMark network={network} />}
                    <Link
                      to={`/${brand.slug}/links/${link.id}${query}`}
                      className="min-w-0 leading-6 hover:text-berry"
                      title={`${link.name}\n${link.target}`}
                    >
                      <Cut>{link.name}</Cut>
                    </Link>
                    {isOver && <span className="label shrink-0">{link.is_paused ? "paused" : "over"}</span>}
                  </span>
                </td>
                <td className="pr-2 text-muted">
                  <Cut>{link.campaign}</Cut>
                </td>
                <td>
                  <span className="flex items-center">
                    <span className="truncate">{link.code}</span>
                    <CopyButton text={link.short} said="The short address is copied." />
                  </span>
                </td>
                <td className="text-right font-semibold">
                  <span className="flex items-center justify-end gap-2">
                    <svg width="36" height="8" aria-hidden="true">
                      <rect
                        x={36 - (36 * link.clicks_in_period) / max}
                        width={(36 * link.clicks_in_period) / max}
                        height="8"
                        fill="var(--berry)"
                      />
                    </svg>
                    <FigureValue
                      kind="links.links"
                      cell={`${link.id}.people`}
                      params={{ link: link.id }}
                      label={`clicks on ${link.name}`}
                    >
                      {figure(link.clicks_in_period)}
                    </FigureValue>
                  </span>
                </td>
                <td className="text-right text-against-ink">{figure(link.clicks_before)}</td>
                <td className="text-right text-muted">
                  <FigureValue
                    kind="links.links"
                    cell={`${link.id}.bots`}
                    params={{ link: link.id }}
                    label={`bots on ${link.name}`}
                  >
                    {figure(link.bots_in_period)}
                  </FigureValue>
                </td>
                <td className="text-right">{figure(link.clicks_ever)}</td>
                <td className="text-right">{figure(link.posts)}</td>
                <td className="text-right text-muted">{since(link.last_click_at, now)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {links.length > shown && (
        <button type="button" className="under mt-2 h-6 hover:text-berry" onClick={() => setShown(shown + 200)}>
          Show more of {figure(links.length)} links
        </button>
      )}
    </>
  );
}
