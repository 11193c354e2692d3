export {
  combLengthMm,
  cutLineMm,
  cutPitchMm,
  extraLengths,
  halfLinesOf,
  lineLabelMm,
  printPitchMm,
  printedLineMm,
  type LineComb,
} from '../comb/comb';
export {
  intervalEstimate,
  pickLikelihood,
  type IntervalEstimate,
  type PickedInterval,
} from './intervalEstimate';
export {
  coarseLeavesOpen,
  coarseOffset,
  nearestLengths,
  tellsLengths,
  type RoughOffset,
} from './wholeLengths';
export {
  pickFromSteps,
  pickIntervalMm,
  pickNearest,
  pickObservation,
  pickOffsetMm,
  pickSteps,
  pickUncertaintyMm,
  type LinePick,
} from './linePick';
