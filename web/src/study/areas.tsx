/** What an area is to the rest of the front end: its index.ts says it, and assembly knows areas by that alone. */

import { createContext, type ReactElement, useContext } from "react";
import { useLocation } from "react-router";
import type { Permission } from "./permissions";

/** A part of the study's sentence: what a view narrows by, or holds its figures against. */
export type Part = "profile" | "network" | "format" | "narrow" | "campaign" | "age" | "against";
/** has: the parts besides the period; null where a view does not look at a period at all. */
export type View = { path: string; name: string; has: readonly Part[] | null };

export type Area = {
  path: string;
  name: string;
  routes: ReactElement;
  /** The letter that leads there after g; an area without one has no place among the areas' names. */
  letter?: string;
  /** Its views by the words above them. */
  views?: readonly View[];
  /** What one can begin there, for those who have the permission; its path is below the brand. */
  acts?: readonly { name: string; path: string; permission: Permission }[];
};

const Areas = createContext<readonly Area[]>([]);
export const AreasProvider = Areas.Provider;

/** All areas, in the order of the loop. */
export function useAreas(): readonly Area[] {
  return useContext(Areas);
}

/** The areas that have a place among the names. */
export function useNamedAreas(): readonly Area[] {
  return useAreas().filter((area) => area.letter !== undefined);
}

/** The parts of the sentence that the view at an address goes by; null where it has no sentence. */
export function partsAt(areas: readonly Area[], pathname: string): readonly Part[] | null {
  const [, , path = "", view = ""] = pathname.split("/");
  const views = areas.find((area) => area.path === path)?.views;
  return (views?.find((one) => one.path === view) ?? views?.[0])?.has ?? null;
}

/** The parts of the sentence that the view goes by that is open. */
export function useParts(): readonly Part[] | null {
  return partsAt(useAreas(), useLocation().pathname);
}
