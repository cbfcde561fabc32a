import { useDeferredValue, useState } from "react";
import type { ProblemError } from "../../api/client";
import { plural } from "../../lib/format";
import { AreaFrame } from "../../study/AreaFrame";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Field } from "../../ui/Field";
import { Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { PARTS } from "./MakeLinkForm";
import {
  type LinkSettings,
  type Rules,
  useDomains,
  useLinkSettings,
  useProposal,
  useSaveLinkSettings,
} from "./queries";

const EXAMPLE = {
  destination: "https://www.example.org/page",
  name: "Sky tonight",
  code: "",
  keeps_query: true,
};

/** By which rules links are made, on which host they stand, and what visitors see when one is over. */
export function RulesPage() {
  const { brand } = useBrand();
  const settings = useLinkSettings(brand.slug);
  return (
    <AreaFrame area="links">
      {settings.error ? (
        <Failed error={settings.error} onRetry={() => settings.refetch()} />
      ) : !settings.data ? (
        <Loading what="Loading the rules" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr] gap-10 overflow-y-auto px-5 py-3">
          <RulesForm settings={settings.data} />
          <Domains settings={settings.data} />
        </div>
      )}
    </AreaFrame>
  );
}

function RulesForm({ settings }: { settings: LinkSettings }) {
  const { brand, can, networks } = useBrand();
  const canChange = can("links.rules");
  const save = useSaveLinkSettings(brand.slug);
  const say = useToast();
  const [rules, setRules] = useState<Rules>(settings.rules);
  const [home, setHome] = useState(settings.home ?? "");
  const [words, setWords] = useState(settings.over_words ?? "");
  const problem = save.error as ProblemError | null;
  const tried = useDeferredValue(rules);
  const example = useProposal(brand.slug, { ...EXAMPLE, network: networks[0]?.key ?? "", rules: tried }, true);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(
          { rules, home, over_words: words },
          { onSuccess: () => say("The rules are kept. Links made from now on follow them.") },
        );
      }}
    >
      <h1 className="text-[18px] leading-6">How links are filled in</h1>
      <p className="label">
        A rule holds words and places in braces: {settings.places.map((place) => `{${place.name}}`).join(" ")}. What is
        not known is left out.
      </p>
      <fieldset disabled={!canChange} className="flex flex-col gap-3.5">
        {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
        <div className="mt-2 grid grid-cols-2 gap-3">
          {PARTS.map((part) => (
            <Field key={part} label={part} error={problem?.fields[`rules.${part}`]}>
              {(props) => (
                <input
                  {...props}
                  value={rules.templates[part] ?? ""}
                  onChange={(e) => setRules({ ...rules, templates: { ...rules.templates, [part]: e.target.value } })}
                />
              )}
            </Field>
          ))}
          <Field label="Between words" error={problem?.fields["rules.separator"]}>
            {(props) => (
              <select
                {...props}
                value={rules.separator}
                onChange={(e) => setRules({ ...rules, separator: e.target.value as Rules["separator"] })}
              >
                <option value="-">a hyphen: night-openings</option>
                <option value="_">an underscore: night_openings</option>
                <option value=".">a dot: night.openings</option>
              </select>
            )}
          </Field>
        </div>
        <Check
          isOn={rules.is_lower ?? true}
          onChange={(is_lower) => setRules({ ...rules, is_lower })}
          help="Tools compare values letter by letter: Brevi and brevi would be two sources."
        >
          In lower case
        </Check>
        <Check
          isOn={rules.is_transliterated ?? true}
          onChange={(is_transliterated) => setRules({ ...rules, is_transliterated })}
          help="Exposição becomes exposicao, Ώρα becomes ora."
        >
          In plain letters
        </Check>
        <Field label="Where the page's address has a parameter already">
          {(props) => (
            <select
              {...props}
              value={rules.existing}
              onChange={(e) => setRules({ ...rules, existing: e.target.value as Rules["existing"] })}
            >
              <option value="keep">the page's own stays</option>
              <option value="replace">ours replaces it</option>
            </select>
          )}
        </Field>
        <p className="text-[12.5px] break-all" aria-live="polite">
          <span className="label block">A post “Sky tonight” on {networks[0]?.name} would lead to</span>
          {example.error ? <span className="text-down">{example.error.message}</span> : example.data?.target}
        </p>
        <h2 className="mt-2 text-[16px]">When a link is over</h2>
        <Field label="Words on the page that visitors see" help="“What this link led to is over.” if left empty">
          {(props) => <input {...props} value={words} onChange={(e) => setWords(e.target.value)} />}
        </Field>
        <Field label="Where they can go instead" error={problem?.fields.home}>
          {(props) => (
            <input {...props} value={home} onChange={(e) => setHome(e.target.value)} placeholder="https://" />
          )}
        </Field>
        {canChange && (
          <Button kind="main" type="submit" isBusy={save.isPending} className="self-start">
            Keep the rules
          </Button>
        )}
      </fieldset>
    </form>
  );
}

function Domains({ settings }: { settings: LinkSettings }) {
  const { brand, can } = useBrand();
  const canChange = can("links.rules");
  const act = useDomains(brand.slug);
  const [host, setHost] = useState("");
  const problem = act.error as ProblemError | null;
  const chosen = settings.domains.find((d) => d.is_chosen)?.id ?? null;
  return (
    <section aria-labelledby="domains-title">
      <h2 id="domains-title" className="text-[18px] leading-6">
        The host that new links stand on
      </h2>
      <p className="label">A host of your own leads only to your own links. Point it at the redirect first.</p>
      <ul className="mt-2">
        {[{ id: null as number | null, host: settings.shared_host, links: 0 }, ...settings.domains].map((domain) => (
          <li key={domain.host} className="rowline flex items-center gap-2 py-1">
            <label className="flex min-h-6 flex-1 items-center gap-2">
              <input
                type="radio"
                name="host"
                disabled={!canChange}
                checked={chosen === domain.id}
                onChange={() => act.mutate({ choose: domain.id ?? null })}
                className="h-4 w-4 shrink-0 accent-(--berry)"
              />
              {domain.host}
              <span className="label">{domain.id === null ? "shared" : plural(domain.links ?? 0, "link")}</span>
            </label>
            {canChange && domain.id !== null && (
              <Button kind="quiet" onClick={() => act.mutate({ remove: domain.id as number })}>
                Take away
              </Button>
            )}
          </li>
        ))}
      </ul>
      {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
      {canChange && (
        <form
          className="mt-3 flex items-start gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            act.mutate({ add: host }, { onSuccess: () => setHost("") });
          }}
        >
          <Field label="One more host" error={problem?.fields.host}>
            {(props) => (
              <input {...props} value={host} placeholder="go.example.org" onChange={(e) => setHost(e.target.value)} />
            )}
          </Field>
          <Button type="submit" className="mt-[22px]" disabled={!host.trim()}>
            Add
          </Button>
        </form>
      )}
    </section>
  );
}
