export { assessPass, type Assessment, type Scope } from './assess';
export { type PassReading } from './passReading';
export { backlashOf, withoutBacklash, type Backlash, type BacklashTold } from './backlash';
export { type Misread } from './misread';
export { MOVED_FROM, type FromLog, type LogAtHand } from './fromLog';
export { lengthRows, lengthsTold, type KeptLength, type LengthRow, type LengthsTold } from './lengths';
export { atTheEnd, type AtTheEnd } from './endOfRange';
export { passReading } from './passReading';
export { nextStation, type NextStation } from './nextStation';
export { readingOrder } from './readingOrder';
export {
  EVEN_WITHIN_MM,
  evenReadings,
  gapReadings,
  otherPassReading,
  otherReadings,
  ringOf,
  ringReading,
  type OtherPick,
  type OtherReading,
  type TypedGaps,
} from './otherReading';
