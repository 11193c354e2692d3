import { crossWay } from './cross';
import { evenWay } from './even';
import { gapsWay } from './gaps';
import { lengthsWay } from './lengths';
import { ringsWay } from './rings';
import { tableWay } from './table';
import type { Way } from './way';

/*
 * Every way of reading beside the sheet’s own combs. A new one is a file beside these and a line here: use case, log,
 * addresses, their description and the lists on the pages go by it; its desk is a component of its own.
 */
export const WAYS = [
  gapsWay,
  ringsWay,
  evenWay,
  crossWay,
  tableWay,
  lengthsWay,
] as const satisfies readonly Way[];
