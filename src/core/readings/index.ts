/* What is slim enough for a page; the ways with their shapes are in `registry`. */
export { passReading, type PassReading } from './passReading';
export {
  joinUntold,
  lengthRows,
  lengthsTold,
  type KeptLength,
  type LengthRow,
  type LengthsTold,
} from './longLengths';
export type { Feature, MeasuredLength } from './measuredLengths';
export type { OtherPick, OtherReading, SentOther } from './registry';
export type { ReadingDoubt, StationReading } from './station';
