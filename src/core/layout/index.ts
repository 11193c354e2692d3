export {
  CHECK_U_MM,
  expectedMiss,
  registersEachSection,
  registersOf,
  rowMiddleMm,
  type ExpectedMiss,
  type FollowedKnowledge,
} from './expectedMiss';
export { expectedSpoiled, forecast, placeOn, type EvaluatedWay, type SectionForecast } from './evaluate';
export { copyAtMm, impose, planRefusalText, rowsLengthMm, type Imposition, type RollItems } from './impose';
export {
  PLAN_VERSION,
  planRoll,
  SECTIONS_OF_A_RECORD,
  STRATEGIES,
  type PlanRefusal,
  type RollJob,
  type RollPlan,
  type RollRig,
  type Strategy,
  type StrategyName,
} from './planRoll';
export { NEW_ROLL_KIT, rollerRoom, type RollerRoom, type Rollers } from './loading';
export { outlineDrawing, placedItem, sectionDrawing } from './sectionDrawing';
export { sectionsOf, type Section, type SectionRoom } from './sections';
export {
  STRIP_PLACES,
  stripPaths,
  stripRefusalText,
  stripPrint,
  stripStations,
  stripXMm,
  WITNESS_COLOUR,
  WITNESS_LAYER,
  type StripPlace,
  type StripStation,
} from './witnessStrip';
export { type Speeds, type Timeline } from './timeline';
export { roundUp, TYPING_STEPS, typeThese, type TypedFigure } from './typeThese';
export { planWithCurves, type PlanWithCurves } from './planWithCurves';
export { rollYield, type RollYield } from './rollYield';
export { missProfile, type ProfilePoint } from './profile';
