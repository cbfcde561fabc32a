import { useState } from "react";
import { useBrand } from "../../study/brand";
import { useChosen } from "../../study/choices";
import { useCampaigns, useProfiles } from "../../study/queries";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import type { Chosen } from "./queries";
import { STATE_WORDS } from "./rules";

type Props = { chosen: Chosen; onChange: (patch: Record<string, string | null>) => void };
const joined = (keys: (string | number)[]) => (keys.length ? keys.join(",") : null);
const NAMES = ["profiles", "networks", "campaigns", "states", "text"] as const;

/** Which posts the calendar shows, in the address; what one looks at often is kept by a name. */
export function Filters({ chosen, onChange }: Props) {
  const { brand, networks } = useBrand();
  const profiles = (useProfiles(brand.slug).data?.profiles ?? []).filter((p) => p.kind === "own");
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const [kept, keep] = useChosen("plan-views", []);
  const [name, setName] = useState("");
  const query = () =>
    NAMES.map((one) => {
      const value = chosen[one];
      return value === undefined ? "" : `${one}=${encodeURIComponent(Array.isArray(value) ? value.join(",") : value)}`;
    })
      .filter(Boolean)
      .join("&");
  const isChosen = Object.keys(chosen).length > 0;
  const open = (told: string) => {
    const params = new URLSearchParams(told.split("?")[1] ?? "");
    onChange(Object.fromEntries(NAMES.map((one) => [one, params.get(one)])));
  };
  const used = new Set(profiles.map((p) => p.network));
  return (
    <details className="relative">
      <summary className={`cursor-pointer list-none ${isChosen ? "text-berry" : ""}`}>
        {isChosen ? "Chosen posts" : "All posts"}
      </summary>
      <div className="absolute z-30 mt-1 flex w-[320px] flex-col gap-2 border border-rule-strong bg-panel p-3 shadow-2xl">
        <input
          type="search"
          aria-label="Words in the plan"
          placeholder="Words in title or text"
          className={inputLook}
          defaultValue={chosen.text ?? ""}
          onKeyDown={(event) => event.key === "Enter" && onChange({ text: event.currentTarget.value || null })}
        />
        <Group
          name="Profiles"
          options={profiles.map((p) => ({ key: String(p.id), name: p.name }))}
          chosen={(chosen.profiles ?? []).map(String)}
          onChange={(keys) => onChange({ profiles: joined(keys) })}
        />
        <Group
          name="Networks"
          options={networks.filter((n) => used.has(n.key)).map((n) => ({ key: n.key, name: n.name }))}
          chosen={chosen.networks ?? []}
          onChange={(keys) => onChange({ networks: joined(keys) })}
        />
        <Group
          name="Campaigns"
          options={campaigns.map((c) => ({ key: String(c.id), name: c.name }))}
          chosen={(chosen.campaigns ?? []).map(String)}
          onChange={(keys) => onChange({ campaigns: joined(keys) })}
        />
        <Group
          name="States"
          options={Object.entries(STATE_WORDS).map(([key, { word }]) => ({ key, name: word }))}
          chosen={chosen.states ?? []}
          onChange={(keys) => onChange({ states: joined(keys) })}
        />
        {isChosen && (
          <div className="flex gap-1">
            <Button kind="quiet" onClick={() => onChange(Object.fromEntries(NAMES.map((one) => [one, null])))}>
              All posts again
            </Button>
            <input
              aria-label="Name of the view"
              placeholder="Keep as"
              className={inputLook}
              maxLength={40}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <Button
              disabled={!name.trim()}
              onClick={() => {
                keep([
                  ...kept.filter((one) => one.split("?")[0] !== name.trim()),
                  `${name.trim().replaceAll("?", "")}?${query()}`,
                ]);
                setName("");
              }}
            >
              Keep
            </Button>
          </div>
        )}
        {kept.length > 0 && (
          <ul className="border-t border-rule pt-1">
            {kept.map((one) => (
              <li key={one} className="flex items-baseline gap-2">
                <button
                  type="button"
                  className="min-h-6 flex-1 truncate text-left hover:text-berry"
                  onClick={() => open(one)}
                >
                  {one.split("?")[0]}
                </button>
                <button
                  type="button"
                  className="label under h-6 hover:text-down"
                  aria-label={`Forget the view ${one.split("?")[0]}`}
                  onClick={() => keep(kept.filter((other) => other !== one))}
                >
                  forget
                </button>
              </li>
            ))}
          </ul>
        )}
      </div>
    </details>
  );
}

type GroupProps = {
  name: string;
  options: { key: string; name: string }[];
  chosen: string[];
  onChange: (keys: string[]) => void;
};

function Group({ name, options, chosen, onChange }: GroupProps) {
  if (options.length === 0) return null;
  return (
    <fieldset>
      <legend className="label">{name}</legend>
      <div className="flex max-h-[108px] flex-wrap gap-x-3 overflow-y-auto">
        {options.map((one) => (
          <label key={one.key} className="inline-flex min-h-6 items-center gap-1">
            <input
              type="checkbox"
              className="h-4 w-4 accent-(--berry)"
              checked={chosen.includes(one.key)}
              onChange={(event) =>
                onChange(event.target.checked ? [...chosen, one.key] : chosen.filter((key) => key !== one.key))
              }
            />
            {one.name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
