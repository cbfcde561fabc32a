/** What a study can stand on: the age that its posts allow, and where there are posts at all. */

import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import { keyOf } from "../api/keys";
import { useBrand } from "./brand";
import { useStudy } from "./study";

export function useFooting() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { age: _, ...asked } = study;
  return useQuery({
    queryKey: keyOf("footing", brand.slug, asked),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/footing", {
          params: {
            path: { brand: brand.slug },
            query: asked,
          },
        }),
      ),
  });
}
