export { asCurves, CURVES_VERSION } from './curves';
export {
  areaOutsideMm2,
  JOINS,
  offsetPaths,
  sharedAreaMm2,
  smoothed,
  unionOf,
  type ClosedPath,
  type Filling,
  type Join,
  type OffsetSpec,
} from './offset';
export { READS_LIKE, TURNED_OVER, twoSides, type ReadsLike, type TurnedOver, type TwoSides } from './sides';
export { BACKGROUNDS, type Background, type Picture } from './field';
export {
  encloses,
  trace,
  traceRefusalText,
  TRACE_VERSION,
  type Trace,
  type TracedPath,
  type TraceRefusal,
  type TraceSpec,
} from './trace';
export { cutLineDrawing, cutLineOf, type CutLine, type CutLineRecipe, type InnerLine } from './cutLine';
export { densityOf } from './density';
export { withBleed, type Bled, type BleedSpec } from './bleed';
