export { readRings, ringOffsetMm, type RingRow, type RingStation } from './evenBorder';
export { readGaps, type GapReading, type Gaps, type GapStation } from './gaps';
export {
  lengthsRefusalText,
  readLengths,
  type Feature,
  type LengthsAnswer,
  type LengthsRefusal,
  type MeasuredLength,
} from './lengths';
export {
  readTable,
  tableRefusalText,
  tableRows,
  type ReadOffset,
  type TableColumns,
  type TableRefusal,
} from './table';
export type { ReadingDoubt, SchoolReadings, StationReading } from './station';
