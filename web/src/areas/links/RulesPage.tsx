import { useDeferredValue } from "react";
import { useForm } from "react-hook-form";
import type { ProblemError } from "../../api/client";
import { plural } from "../../lib/format";
import { AreaFrame } from "../../study/AreaFrame";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { CheckEntry, Entry, Form } from "../../ui/Form";
import { Failed, Loading } from "../../ui/States";
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
  const form = useForm<{ rules: Rules; home: string; over_words: string }>({
    defaultValues: {
      rules: {
        ...settings.rules,
        is_lower: settings.rules.is_lower ?? true,
        is_transliterated: settings.rules.is_transliterated ?? true,
      },
      home: settings.home ?? "",
      over_words: settings.over_words ?? "",
    },
  });
  const rules = form.watch("rules");
  const problem = save.error as ProblemError | null;
  const tried = useDeferredValue(rules);
  const example = useProposal(brand.slug, { ...EXAMPLE, network: networks[0]?.key ?? "", rules: tried }, true);
  return (
    <Form
      form={form}
      error={save.error}
      saidElsewhere={PARTS.map((part) => `rules.${part}`)}
      onSubmit={(given) =>
        save.mutate(given, { onSuccess: () => say("The rules are kept. Links made from now on follow them.") })
      }
    >
      <h1 className="text-[18px] leading-6">How links are filled in</h1>
      <p className="label">
        A rule holds words and places in braces: {settings.places.map((place) => `{${place.name}}`).join(" ")}. What is
        not known is left out.
      </p>
      <fieldset disabled={!canChange} className="flex flex-col gap-3.5">
        <div className="mt-2 grid grid-cols-2 gap-3">
          {PARTS.map((part) => (
            <Entry
              key={part}
              form={form}
              name={`rules.templates.${part}`}
              label={part}
              error={problem?.fields[`rules.${part}`]}
            >
              {(field) => <input {...field} value={field.value ?? ""} />}
            </Entry>
          ))}
          <Entry form={form} name="rules.separator" label="Between words">
            {(field) => (
              <select {...field}>
                <option value="-">a hyphen: night-openings</option>
                <option value="_">an underscore: night_openings</option>
                <option value=".">a dot: night.openings</option>
              </select>
            )}
          </Entry>
        </div>
        <CheckEntry
          form={form}
          name="rules.is_lower"
          help="Tools compare values letter by letter: Brevi and brevi would be two sources."
        >
          In lower case
        </CheckEntry>
        <CheckEntry form={form} name="rules.is_transliterated" help="Exposição becomes exposicao, Ώρα becomes ora.">
          In plain letters
        </CheckEntry>
        <Entry form={form} name="rules.existing" label="Where the page's address has a parameter already">
          {(field) => (
            <select {...field}>
              <option value="keep">the page's own stays</option>
              <option value="replace">ours replaces it</option>
            </select>
          )}
        </Entry>
        <p className="text-[12.5px] break-all" aria-live="polite">
          <span className="label block">A post “Sky tonight” on {networks[0]?.name} would lead to</span>
          {example.error ? <span className="text-down">{example.error.message}</span> : example.data?.target}
        </p>
        <h2 className="mt-2 text-[16px]">When a link is over</h2>
        <Entry
          form={form}
          name="over_words"
          label="Words on the page that visitors see"
          help="“What this link led to is over.” if left empty"
        >
          {(field) => <input {...field} />}
        </Entry>
        <Entry form={form} name="home" label="Where they can go instead">
          {(field) => <input {...field} placeholder="https://" />}
        </Entry>
        {canChange && (
          <Button kind="main" type="submit" isBusy={save.isPending} className="self-start">
            Keep the rules
          </Button>
        )}
      </fieldset>
    </Form>
  );
}

function Domains({ settings }: { settings: LinkSettings }) {
  const { brand, can } = useBrand();
  const canChange = can("links.rules");
  const act = useDomains(brand.slug);
  const form = useForm({ defaultValues: { host: "" } });
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
      {canChange && (
        <Form
          form={form}
          error={act.error}
          className="mt-3 flex flex-wrap items-start gap-3"
          onSubmit={({ host }) => act.mutate({ add: host }, { onSuccess: () => form.reset() })}
        >
          <Entry form={form} name="host" label="One more host">
            {(field) => <input {...field} placeholder="go.example.org" />}
          </Entry>
          <Button type="submit" className="mt-[22px]" disabled={!form.watch("host").trim()}>
            Add
          </Button>
        </Form>
      )}
    </section>
  );
}
