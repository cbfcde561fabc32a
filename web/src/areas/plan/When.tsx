import type { Schemas } from "../../api/client";
import { dayOf, timeOf } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { Check } from "../../ui/Check";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { TimeField } from "../../ui/TimeField";
import { useAssetsOf } from "../media";
import { Hours } from "./Hours";
import { type Draft, partOf, textFor } from "./rules";

type Props = {
  draft: Draft;
  scope: Schemas["Profile"] | null;
  profiles: Schemas["Profile"][];
  when: string | null;
  isEditable: boolean;
  error?: string;
  change: (patch: Partial<Draft>) => void;
};

/** The minute: one for all, or one of a version's own, with each profile's hours and what it will bring beside it. */
export function When({ draft, scope, profiles, when, isEditable, error, change }: Props) {
  const { brand, today } = useBrand();
  const zone = brand.time_zone;
  const own = scope ? draft.own[scope.id]?.when : undefined;
  const shown = own ?? { day: draft.day, time: draft.time };
  const put = (next: { day: string; time: string }) =>
    scope && own ? change({ own: { ...draft.own, [scope.id]: { ...draft.own[scope.id], when: next } } }) : change(next);
  const files = [...new Set(profiles.flatMap((p) => partOf(draft, p.id, "media")))];
  const assets = useAssetsOf(brand.slug, files);
  const kindOf = (id: number) => assets[files.indexOf(id)]?.kind || [];
  const setOwn = (isOn: boolean) => {
    if (!scope) return;
    const { when: _, ...rest } = draft.own[scope.id] ?? {};
    change({
      own: { ...draft.own, [scope.id]: isOn ? { ...rest, when: { day: draft.day, time: draft.time } } : rest },
    });
  };
  return (
    <>
      <p className="label">
        Hours of {zone}
        {scope && !own && "; the time of all versions"}.
      </p>
      {scope && (
        <fieldset className="mt-1" disabled={!isEditable}>
          <Check isOn={own !== undefined} onChange={setOwn}>
            {scope.name} has a time of its own
          </Check>
        </fieldset>
      )}
      <div className="mt-2 grid grid-cols-2 gap-3">
        <Field label="Day" error={error}>
          {(props) => (
            <DateField
              {...props}
              disabled={!isEditable}
              today={today}
              value={shown.day}
              onChange={(day) => put({ ...shown, day })}
            />
          )}
        </Field>
        <Field label="Time">
          {(props) => (
            <TimeField
              {...props}
              disabled={!isEditable}
              value={shown.time}
              onChange={(time) => put({ ...shown, time })}
            />
          )}
        </Field>
      </div>
      <Hours
        profiles={scope ? [scope] : profiles}
        texts={Object.fromEntries(profiles.map((p) => [p.id, textFor(draft, p.id)]))}
        kinds={Object.fromEntries(profiles.map((p) => [p.id, partOf(draft, p.id, "media").flatMap(kindOf)]))}
        campaign={draft.campaign}
        tags={draft.tags ?? []}
        when={when}
        onWhen={isEditable ? (at) => put({ day: dayOf(at, zone), time: timeOf(at, zone) }) : undefined}
      />
    </>
  );
}
