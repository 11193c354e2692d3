/* What the reading desk works out: fetched once the page can be seen. */

export { assessPass } from '@/core/calibration';
export { predictOffset } from '@/core/fit';
export { readLine } from './readWaiting';
export { NextToRead } from './NextToRead';
export { SoFar } from './SoFar';
