export { assessPass, type Assessment, type Known, type Scope } from './assess';
export { backlashOf, withoutBacklash, type Backlash, type BacklashTold } from './backlash';
export { type Misread } from './misread';
export { MOVED_FROM, type FromLog, type LogAtHand } from './fromLog';
export { atTheEnd, type AtTheEnd } from './endOfRange';
export { nextStation, type NextStation } from './nextStation';
export { readingOrder } from './readingOrder';
export { movesOnly, type Middle } from './shortSheet';
