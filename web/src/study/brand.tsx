import { createContext, type ReactNode, useContext, useEffect, useMemo } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../api/client";
import { type Day, dayOf, setToday } from "../lib/days";
import { Empty, Failed, Loading } from "../ui/States";
import type { Permission } from "./permissions";
import { useBrandQuery, useNetworksQuery, useSession } from "./queries";

type Value = {
  brand: Schemas["Brand"];
  networks: Schemas["Network"][];
  /** The server's clock when the brand was read: everything on a screen speaks of the same now. */
  now: Date;
  today: Day;
  /** Whether the person may do something here. */
  can: (permission: Permission) => boolean;
};
const Context = createContext<Value | null>(null);

export function useBrand(): Value {
  const value = useContext(Context);
  if (!value) throw new Error("useBrand outside of a brand");
  return value;
}

export function useNetwork(key: string): Schemas["Network"] {
  return networkNamed(useBrand().networks, key);
}

/** The network of a key; one that only an imported file knows goes by the words of its key. */
export function networkNamed(networks: Schemas["Network"][], key: string): Schemas["Network"] {
  return networks.find((network) => network.key === key) ?? fromFile(key);
}

function fromFile(key: string): Schemas["Network"] {
  const name = key.replaceAll("-", " ").replace(/(^| )./g, (c) => c.toUpperCase());
  return {
    key,
    name,
    monogram: name.slice(0, 2),
    shape: "dashed",
    kind: "",
    text_limit: 0,
    title_limit: 0,
    has_options: false,
    media: {
      need: "",
      most_pictures: 0,
      narrowest: null,
      widest: null,
      takes_videos: true,
      takes_documents: true,
      has_still: false,
    },
    offer: {
      has_presence: false,
      has_comments: false,
      has_webhooks: false,
      has_search: false,
      has_publishing: false,
      has_first_comment: false,
      has_own_preview: false,
      audience: [],
    },
    half_life_hours: 0,
    calls_per_minute: 0,
    is_connectable: false,
    has_public_profiles: false,
    own_metrics: [],
    public_metrics: [],
  };
}

/** It is said, and nobody is led elsewhere unasked. */
function NoSuchBrand({ slug }: { slug: string }) {
  const brands = useSession().data?.brands ?? [];
  return (
    <Empty title={`There is no brand “${slug}” for you`}>
      It may be spelt otherwise, or you are not one of its people. Yours:{" "}
      {brands.map((brand, i) => (
        <span key={brand.slug}>
          {i > 0 && ", "}
          <Link to={`/${brand.slug}/results`} className="under text-ink hover:text-berry">
            {brand.name}
          </Link>
        </span>
      ))}
      .
    </Empty>
  );
}

export function BrandProvider({ children }: { children: ReactNode }) {
  const { brand = "" } = useParams();
  const found = useBrandQuery(brand);
  const networks = useNetworksQuery();
  const value = useMemo<Value | null>(() => {
    if (!found.data || !networks.data) return null;
    const now = new Date(found.data.now);
    const brand = found.data;
    const today = dayOf(now, brand.time_zone);
    setToday(today);
    return {
      brand,
      networks: networks.data,
      now,
      today,
      can: (permission) => brand.may.includes(permission),
    };
  }, [found.data, networks.data]);
  useEffect(() => {
    if (found.data) document.title = `${found.data.name} · Dakika`;
  }, [found.data]);
  const error = found.error ?? networks.error;
  if (error && "status" in error && error.status === 404) return <NoSuchBrand slug={brand} />;
  if (error) return <Failed error={error} onRetry={() => found.refetch()} />;
  if (!value) return <Loading what="Loading the brand" />;
  return <Context.Provider value={value}>{children}</Context.Provider>;
}
