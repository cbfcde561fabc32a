import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { monthName, spanText } from "../lib/days";
import { useAreas, useNamedAreas, useParts } from "../study/areas";
import { networkNamed, useBrand } from "../study/brand";
import { presets, type Span } from "../study/line/geometry";
import { monthsBack } from "../study/PeriodChoice";
import { useFoundLinks, useFoundPosts, useMetrics, useProfiles, useSession, useTags } from "../study/queries";
import { carried } from "../study/study";
import { Cut } from "../ui/Cut";
import { useFocusBefore } from "../ui/useFocusBefore";

const GROUP = "[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-4";
const withMetric = (search: string, key: string) => {
  const asked = new URLSearchParams(carried(search));
  asked.set("metric", key);
  return asked.toString();
};
/** Every word must stand in it as it was typed: what begins with it comes first. */
const holdsWords = (value: string, typed: string) => {
  const [all, words] = [value.toLowerCase(), typed.toLowerCase().trim().split(/\s+/)];
  if (!words.every((word) => all.includes(word))) return 0;
  return all.startsWith(words[0] ?? "") ? 1 : 0.5;
};
const MOST_METRICS = 12;
/** Of several hundred metrics those whose names hold the words, the shortest name first. */
const metricsFound = <M extends { name: string; key: string }>(metrics: M[], text: string) =>
  metrics
    .filter((m) => holdsWords(`${m.name} ${m.key} metric`, text))
    .sort((a, b) => a.name.length - b.name.length)
    .slice(0, MOST_METRICS);
const row = "flex cursor-pointer gap-3 px-4 py-1.5 data-[selected=true]:bg-wash";

/** Go to, find, act: everything by a few letters. */
export function Palette({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand, networks, today, can } = useBrand();
  const [text, setText] = useState("");
  const navigate = useNavigate();
  const { search } = useLocation();
  const sources = useProfiles(brand.slug);
  const found = useFoundPosts(brand.slug, text, today);
  const links = useFoundLinks(brand.slug, isOpen);
  const metrics = useMetrics(brand.slug, isOpen);
  const tags = useTags(brand.slug);
  const periods = [...presets(today), ...monthsBack(today).map((span) => ({ label: monthName(span.first), span }))];
  const hasPeriod = useParts() !== null;
  const areas = useNamedAreas();
  const acts = useAreas()
    .flatMap((area) => area.acts ?? [])
    .filter((act) => can(act.permission));
  const { pathname } = useLocation();
  // A period is studied where one is; elsewhere it leads to Results.
  const study = (span: Span) => {
    const asked = new URLSearchParams(search);
    asked.set("first", span.first);
    asked.set("last", span.last);
    const [, , ...rest] = pathname.split("/");
    go(`${hasPeriod ? rest.join("/") : "results"}?${asked}`);
  };
  const go = (path: string) => {
    onClose();
    setText("");
    navigate(`/${brand.slug}/${path}`);
  };
  const hasSeveral = (useSession().data?.brands.length ?? 0) > 1;
  const giveBack = useFocusBefore(isOpen);
  return (
    <Dialog.Root open={isOpen} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={giveBack}
          className="fixed left-1/2 top-[10vh] z-50 w-[560px] max-w-[94vw] -translate-x-1/2 border border-rule-strong bg-panel shadow-2xl"
        >
          <Dialog.Title className="sr-only">Go to or find</Dialog.Title>
          <Command label="Go to or find" filter={holdsWords}>
            <Command.Input
              value={text}
              onValueChange={setText}
              placeholder="Go to an area, find a post, profile or link, or act"
              className="h-11 w-full border-b border-rule bg-transparent px-4 text-[15px] outline-none placeholder:text-muted"
            />
            <Command.List className="max-h-[50vh] overflow-y-auto py-2">
              <Command.Empty className="px-4 py-3 text-muted">Nothing of that name.</Command.Empty>
              <Command.Group heading="Go to" className="[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-4">
                {areas.map((area) => (
                  <Command.Item key={area.path} onSelect={() => go(area.path + carried(search))} className={row}>
                    {area.name}
                  </Command.Item>
                ))}
                {areas.flatMap((area) =>
                  (area.views ?? [])
                    .filter((view) => view.path)
                    .map((view) => (
                      <Command.Item
                        key={`${area.path}/${view.path}`}
                        value={`${view.name} of ${area.name}`}
                        onSelect={() => go(`${area.path}/${view.path}${carried(search)}`)}
                        className={row}
                      >
                        {view.name} <span className="label">of {area.name}</span>
                      </Command.Item>
                    )),
                )}
              </Command.Group>
              {hasSeveral && (
                <Command.Group
                  heading="Brands"
                  className="[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-4"
                >
                  <Command.Item onSelect={() => go("brands")} className={row}>
                    All brands
                  </Command.Item>
                </Command.Group>
              )}
              {acts.length > 0 && (
                <Command.Group heading="Act" className="[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-4">
                  {acts.map(({ name, path }) => (
                    <Command.Item key={path} onSelect={() => go(path)} className={row}>
                      {name}
                    </Command.Item>
                  ))}
                </Command.Group>
              )}
              <Command.Group
                heading="Profiles"
                className="[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-4"
              >
                {sources.data?.profiles.map((p) => (
                  <Command.Item
                    key={p.id}
                    value={`${p.name} ${p.handle} ${p.network} ${p.id}`}
                    onSelect={() => go(`timing?profile=${p.id}`)}
                    className={row}
                  >
                    {p.name}
                    <span className="label self-center">{networkNamed(networks, p.network).name}, its week</span>
                  </Command.Item>
                ))}
              </Command.Group>
              {text.length > 1 && (
                <>
                  <Command.Group heading="Periods" className={GROUP}>
                    {periods.map(({ label, span }) => (
                      <Command.Item key={label} value={`${label} period`} onSelect={() => study(span)} className={row}>
                        {label} <span className="label self-center">{spanText(span.first, span.last)}</span>
                      </Command.Item>
                    ))}
                  </Command.Group>
                  <Command.Group heading="Metrics" className={GROUP}>
                    {metricsFound(metrics.data?.metrics ?? [], text).map((m) => (
                      <Command.Item
                        key={m.key}
                        value={`${m.name} ${m.key} metric`}
                        onSelect={() => go(`results?${withMetric(search, m.key)}`)}
                        className={row}
                      >
                        <span className="whitespace-nowrap">{m.name}</span>
                        <span className="label self-center truncate">{m.definition}</span>
                      </Command.Item>
                    ))}
                  </Command.Group>
                  <Command.Group heading="Tags" className={GROUP}>
                    {tags.data?.map((tag) => (
                      <Command.Item
                        key={tag.id}
                        value={`${tag.name} tag ${tag.id}`}
                        onSelect={() => go(`results/posts?tag=${tag.id}`)}
                        className={row}
                      >
                        {tag.name} <span className="label self-center">its posts</span>
                      </Command.Item>
                    ))}
                  </Command.Group>
                </>
              )}
              {text.length > 1 && (
                <Command.Group heading="Links" className="[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-4">
                  {links.data?.links.map((link) => (
                    <Command.Item
                      key={link.id}
                      value={`${link.name} ${link.code} link ${link.id}`}
                      onSelect={() => go(`links/${link.id}`)}
                      className={row}
                    >
                      <Cut>{link.name}</Cut>
                      <span className="label self-center">{link.code}</span>
                    </Command.Item>
                  ))}
                </Command.Group>
              )}
              {found.data && found.data.posts.length > 0 && (
                <Command.Group
                  heading="Posts"
                  forceMount
                  className="[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-4"
                >
                  {found.data.posts.map((p) => (
                    <Command.Item
                      key={p.id}
                      value={`${text} ${p.id}`}
                      onSelect={() => go(`results/posts/${p.id}`)}
                      className={row}
                    >
                      <Cut>{p.text}</Cut>
                    </Command.Item>
                  ))}
                </Command.Group>
              )}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
