import { figure } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { NetworkMark } from "../../ui/Marks";
import { DIMENSION_NAMES, FIELD_NAMES } from "./rules";
import { SourcesBar } from "./SourcesBar";

/** What each network tells of one's own profiles, and what of everybody's. What it does not tell is missing, not zero. */
export function NetworksPage() {
  const { networks } = useBrand();
  const told = (metric: string) =>
    networks.some((n) => n.own_metrics.includes(metric) || n.public_metrics.includes(metric));
  return (
    <>
      <SourcesBar />
      <div className="min-h-0 flex-1 overflow-auto px-5 py-3" tabIndex={0} role="region" aria-label="Networks">
        <h1 className="text-[18px] leading-6">What each network gives</h1>
        <p className="label">
          Filled: of our own profiles alone. Filled with a ring: of everybody's too. Empty: the network does not tell
          it, so it is missing in figures, never zero.
        </p>
        <table className="mt-3">
          <thead className="label text-left align-bottom">
            <tr className="border-b border-rule-strong">
              <th className="w-44 py-1 font-normal">Per post</th>
              {networks.map((n) => (
                <th key={n.key} scope="col" className="w-[84px] py-1 text-center font-normal">
                  <NetworkMark network={n} />
                  <span className="block">{n.name}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Object.keys(FIELD_NAMES)
              .filter(told)
              .map((metric) => (
                <tr key={metric} className="rowline h-7">
                  <th scope="row" className="text-left font-normal">
                    {FIELD_NAMES[metric]}
                  </th>
                  {networks.map((n) => (
                    <td key={n.key} className="text-center">
                      <Told isOwn={n.own_metrics.includes(metric)} isPublic={n.public_metrics.includes(metric)} />
                    </td>
                  ))}
                </tr>
              ))}
            <tr>
              <th colSpan={networks.length + 1} className="label pt-4 pb-1 text-left font-normal">
                Of our own profiles besides
              </th>
            </tr>
            <Row name="When the audience is online" of={(n) => n.offer.has_presence} />
            {Object.entries(DIMENSION_NAMES).map(([key, name]) => (
              <Row key={key} name={`Audience: ${name.toLowerCase()}`} of={(n) => n.offer.audience.includes(key)} />
            ))}
            <Row name="Comments" of={(n) => n.offer.has_comments} />
            <Row name="Tells at once of new comments" of={(n) => n.offer.has_webhooks} />
            <Row name="Takes posts from here" of={(n) => n.offer.has_publishing} />
            <tr className="rowline h-7">
              <th scope="row" className="text-left font-normal">
                Half of the views after
              </th>
              {networks.map((n) => (
                <td key={n.key} className="text-center">
                  {n.half_life_hours < 1
                    ? `${Math.round(n.half_life_hours * 60)} min`
                    : n.half_life_hours < 48
                      ? `${n.half_life_hours} h`
                      : `${Math.round(n.half_life_hours / 24)} d`}
                </td>
              ))}
            </tr>
            <tr className="rowline h-7">
              <th scope="row" className="text-left font-normal">
                Calls a minute
              </th>
              {networks.map((n) => (
                <td key={n.key} className="text-center">
                  {figure(n.calls_per_minute)}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
    </>
  );
}

function Row({
  name,
  of,
}: {
  name: string;
  of: (network: ReturnType<typeof useBrand>["networks"][number]) => boolean;
}) {
  const { networks } = useBrand();
  return (
    <tr className="rowline h-7">
      <th scope="row" className="text-left font-normal">
        {name}
      </th>
      {networks.map((n) => (
        <td key={n.key} className="text-center">
          <Told isOwn={of(n)} isPublic={false} />
        </td>
      ))}
    </tr>
  );
}

function Told({ isOwn, isPublic }: { isOwn: boolean; isPublic: boolean }) {
  const words = isPublic ? "of everybody" : isOwn ? "of our own" : "not told";
  return (
    <svg width="18" height="18" role="img" aria-label={words} className="inline-block">
      <title>{words}</title>
      {(isOwn || isPublic) && <circle cx="9" cy="9" r="4" fill="var(--q5)" />}
      {isPublic && <circle cx="9" cy="9" r="7" fill="none" stroke="var(--q5)" strokeWidth="1.4" />}
      {!isOwn && !isPublic && <path d="M6 9h6" stroke="var(--tick)" />}
    </svg>
  );
}
