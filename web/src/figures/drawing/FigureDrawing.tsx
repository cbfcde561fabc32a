import type { ReactNode } from "react";
import type { Numbers } from "../../lib/numbers";
import { Axes } from "./Axes";
import { BarRows } from "./BarRows";
import { Cards } from "./Cards";
import { Course } from "./Course";
import { FigureTable } from "./FigureTable";
import { HourGrid } from "./HourGrid";
import { Steps } from "./Steps";
import { type Cell, type Drawing, type DrawnSet, drawnAs } from "./set";
import { Tiles } from "./Tiles";
import { Weeks } from "./Weeks";

export type Words = { before: string; unknown: string };
/** shown: how a figure's text stands on the page; a screen makes it open its basis, paper does not. */
export type DrawingProps = {
  set: DrawnSet;
  numbers: Numbers;
  words: Words;
  rows: number;
  width: number;
  height: number;
  shown: (cell: Cell, text: ReactNode) => ReactNode;
};

/** Any set of figures in one of the ways that it can be drawn, at a size in pixels; the same on screen and paper. */
export function FigureDrawing({ drawing, ...props }: DrawingProps & { drawing: Drawing }) {
  const as = drawnAs(props.set, drawing);
  if (props.set.cells.length === 0 && props.set.series.length === 0 && (props.set.rows ?? []).length === 0)
    return <p className="label">{props.set.note || props.words.unknown}</p>;
  if (as === "tiles") return <Tiles {...props} />;
  if (as === "course") return <Course {...props} />;
  if (as === "bars") return <BarRows {...props} />;
  if (as === "grid") return <HourGrid {...props} />;
  if (as === "axes") return <Axes {...props} />;
  if (as === "cards") return <Cards {...props} />;
  if (as === "steps") return <Steps {...props} />;
  if (as === "calendar") return <Weeks {...props} />;
  return <FigureTable {...props} />;
}
