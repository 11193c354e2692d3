export {
  cutLineMm,
  cutPitchMm,
  extraLengths,
  lineLabelMm,
  printPitchMm,
  printedLineMm,
  type LineComb,
} from './comb';
export {
  intervalEstimate,
  pickLikelihood,
  type IntervalEstimate,
  type PickedInterval,
} from './intervalEstimate';
export { coarseOffset, nearestLengths, tellsLengths, type RoughOffset } from './lengths';
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
