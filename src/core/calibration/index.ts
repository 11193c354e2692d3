export { assessPass, type Assessment, type PassReading, type Scope } from './assess';
export { passReading } from './passReading';
export { readingOrder } from './readingOrder';
