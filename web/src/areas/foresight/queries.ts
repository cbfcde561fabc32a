/** What Foresight asks the server. */

import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf } from "../../api/keys";
import { keptWithin } from "../../lib/keep";

export type UnderWay = Schemas["UnderWay"];
export type PostOutlook = Schemas["PostOutlook"];
export type Expectation = Schemas["Expectation"];
export type ExpectedPost = Schemas["ExpectedPost"];
export type ExpectedWeek = Schemas["ExpectedWeek"];
export type Calibration = Schemas["Calibration"];
export type CalibrationRow = Schemas["CalibrationRow"];

/** Posts of the last seven days and how each is doing. */
export function useUnderWay(brand: string) {
  return useQuery({
    queryKey: keyOf("under way", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/foresight/under-way", { params: { path: { brand } } })),
  });
}

export function useOutlook(brand: string, post: number) {
  return useQuery({
    queryKey: keyOf("outlook", brand, post),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/foresight/posts/{id}", { params: { path: { brand, id: post } } })),
  });
}

export type Thought = Schemas["ThoughtRequest"];

/** What posts that are thought of will bring. */
export function useExpected(brand: string, posts: Thought[]) {
  return useQuery({
    queryKey: keyOf("expected", brand, posts),
    enabled: posts.length > 0,
    placeholderData: keptWithin("expected", brand),
    queryFn: () =>
      unwrap(api.POST("/api/brands/{brand}/foresight/expected", { params: { path: { brand } }, body: { posts } })),
  });
}

/** What everything planned between two days will bring. */
export function useExpectedPlan(brand: string, first: string, last: string) {
  return useQuery({
    queryKey: keyOf("expected plan", brand, first, last),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/foresight/planned", { params: { path: { brand }, query: { first, last } } })),
  });
}

export function useCalibration(brand: string, tried: boolean) {
  return useQuery({
    queryKey: keyOf("calibration", brand, tried),
    placeholderData: keptWithin("calibration", brand),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/foresight/calibration", { params: { path: { brand }, query: { tried } } })),
  });
}
