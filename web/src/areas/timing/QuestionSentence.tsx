import { useSearchParams } from "react-router";
import { addDays, shortDay } from "../../lib/days";
import { formatNames, plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { useTags } from "../../study/queries";
import { ageName } from "../../study/study";
import { Choice } from "../../ui/Choice";
import { SetChoice } from "../../ui/SetChoice";
import { usePeerSets } from "../competitors";
import type { Week } from "./queries";
import { choiceText, chosenIn, type Question, questionIn, SPANS, withQuestion } from "./question";
import { cityOf } from "./rules";

/** Whose hours, for what, of which posts, by whose clock: each part opens its choice. */
export function QuestionSentence({ week }: { week: Week }) {
  const { today } = useBrand();
  const [params, setParams] = useSearchParams();
  const question = questionIn(params);
  const change = (part: Partial<Record<keyof Question, string>>) => setParams((old) => withQuestion(old, part));
  const wanted = week.wanted.find((one) => one.key === week.of);
  const span = SPANS.find((one) => question.first === addDays(today, -7 * one.weeks)) ?? SPANS[0];
  return (
    <div className="flex min-h-[34px] items-center border-b border-rule px-5 narrow:px-3 narrow:py-1.5">
      <p className="narrow:whitespace-normal">
        Hours of <Whose week={week} question={question} change={change} /> for{" "}
        <Choice
          label="For what"
          value={week.of}
          options={week.wanted.map((one) => ({ value: one.key, label: one.name }))}
          onChoose={(of) => change({ of: of === "interactions" ? "" : of })}
        >
          {wanted?.name ?? week.of}
        </Choice>
        , <Formats question={question} change={change} />, <Tags question={question} change={change} />, posts of{" "}
        <Choice
          label="Posts of"
          value={String(span.weeks)}
          options={SPANS.map((one) => ({ value: String(one.weeks), label: one.words }))}
          onChoose={(weeks) => change({ first: weeks === "26" ? "" : addDays(today, -7 * Number(weeks)), last: "" })}
        >
          {question.first && !SPANS.some((one) => question.first === addDays(today, -7 * one.weeks))
            ? `${shortDay(question.first)} on`
            : span.words}
        </Choice>{" "}
        {ageName(week.age_hours)}, by the clock of <Clock week={week} change={change} />
        {week.untimed > 0 && `; ${plural(week.untimed, "post")} left out, whose time of day is not known`}
      </p>
    </div>
  );
}

type Part = { question: Question; change: (part: Partial<Record<keyof Question, string>>) => void };

function Whose({ week, question, change }: Part & { week: Week }) {
  const { networks } = useBrand();
  const one = week.chosen[0];
  const nameOf = (key: string) => networkNamed(networks, key).name;
  const profiles = chosenIn(question.profile);
  const toggled = (value: string) => {
    const now = profiles.values.length ? profiles.values : [];
    const next = now.includes(value) ? now.filter((v) => v !== value) : [...now, value];
    change({ profile: choiceText(false, next) });
  };
  const own = [...new Set(week.profiles.filter((p) => p.is_own).map((p) => p.network))];
  const sets = usePeerSets(useBrand().brand.slug).data?.sets ?? [];
  const chosen = question.whose
    ? [question.whose]
    : question.set
      ? [`set:${question.set}`]
      : question.network
        ? [`network:${question.network}`]
        : [];
  const words = question.whose
    ? `${question.whose === "brand" ? "the brand's" : "the competitors'"} ${plural(week.chosen.length, "profile")}`
    : question.set
      ? `${plural(week.chosen.length, "competitor's profile", "competitors' profiles")} of ${sets.find((one) => one.id === question.set)?.name ?? "a set"}`
      : question.network
        ? `all of ${nameOf(question.network)}`
        : week.chosen.length === 1 && one
          ? `${one.name} on ${nameOf(one.network)}`
          : plural(week.chosen.length, "profile");
  return (
    <SetChoice
      label="Whose hours"
      none="the profile that publishes most"
      isNot={false}
      onNot={() => undefined}
      onClear={() => change({ profile: "" })}
      onToggle={(group, value) => {
        if (group !== "Together") toggled(value);
        else if (value.startsWith("network:")) change({ network: value.slice(8) });
        else if (value.startsWith("set:")) change({ set: value.slice(4) });
        else change({ whose: value });
      }}
      groups={[
        {
          name: "Together",
          chosen,
          options: [
            { value: "brand", label: "all of the brand" },
            ...own.map((key) => ({ value: `network:${key}`, label: `all of ${nameOf(key)}` })),
            { value: "competitors", label: "the competitors" },
            ...sets.map((one) => ({ value: `set:${one.id}`, label: `the competitors of ${one.name}` })),
          ],
        },
        {
          name: "Profiles",
          chosen: profiles.values,
          options: week.profiles.map((p) => ({
            value: String(p.id),
            label: p.name,
            hint: `${nameOf(p.network)}${p.is_own ? ", us" : ""}`,
          })),
        },
      ]}
    >
      {words}
    </SetChoice>
  );
}

function Formats({ question, change }: Part) {
  const { isNot, values } = chosenIn(question.format);
  const names = values.map((v) => formatNames[v as keyof typeof formatNames] ?? v);
  return (
    <SetChoice
      label="Formats"
      none="any format"
      isNot={isNot}
      groups={[
        {
          name: "Formats",
          chosen: values,
          options: Object.entries(formatNames).map(([value, label]) => ({ value, label })),
        },
      ]}
      onToggle={(_, value) =>
        change({
          format: choiceText(isNot, values.includes(value) ? values.filter((v) => v !== value) : [...values, value]),
        })
      }
      onNot={(not) => change({ format: choiceText(not, values) })}
      onClear={() => change({ format: "" })}
    >
      {names.length ? `${isNot ? "not " : ""}${names.join(" or ")}` : "any format"}
    </SetChoice>
  );
}

function Tags({ question, change }: Part) {
  const { brand } = useBrand();
  const tags = useTags(brand.slug).data ?? [];
  const { isNot, values } = chosenIn(question.tag);
  const names = values.map((v) => tags.find((t) => String(t.id) === v)?.name ?? v);
  return (
    <SetChoice
      label="Tags"
      none="any tag"
      isNot={isNot}
      groups={[{ name: "Tags", chosen: values, options: tags.map((t) => ({ value: String(t.id), label: t.name })) }]}
      onToggle={(_, value) =>
        change({
          tag: choiceText(isNot, values.includes(value) ? values.filter((v) => v !== value) : [...values, value]),
        })
      }
      onNot={(not) => change({ tag: choiceText(not, values) })}
      onClear={() => change({ tag: "" })}
    >
      {names.length ? `${isNot ? "not " : ""}${names.join(" or ")}` : "any tag"}
    </SetChoice>
  );
}

function Clock({ week, change }: { week: Week; change: Part["change"] }) {
  const zones = [...new Set([week.brand_zone, ...week.audience_zones, week.zone, "UTC"])];
  return (
    <Choice
      label="By whose clock"
      value={week.zone}
      options={zones.map((zone) => {
        const group = week.groups.find((g) => g.zone === zone);
        const hint = [
          zone === week.brand_zone && "the brand's",
          group && `${Math.round(group.share * 10)} in 10 of the audience`,
        ];
        return { value: zone, label: cityOf(zone), hint: hint.filter(Boolean).join(", ") };
      })}
      onChoose={(zone) => change({ zone: zone === week.brand_zone ? "" : zone })}
    >
      {cityOf(week.zone)}
    </Choice>
  );
}
