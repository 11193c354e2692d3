export { assessPass, type Assessment, type PassReading, type Scope } from './assess';
export { type Misread } from './misread';
export { passReading } from './passReading';
export { readingOrder } from './readingOrder';
