import { LEAST_SIZE_MM } from '../tolerance';
import type { Station } from '../proof';

/**
 * The order in which stations tell most, soonest: each next one is the farthest from all before it.
 * Starts at the near left, where the operator stands. Method: farthest-first traversal (Gonzalez 1985).
 */
export function readingOrder(stations: readonly Station[]): Station[] {
  const left = [...stations];
  const order: Station[] = [];
  const nearness = (s: Station): number => s.centre.x + s.centre.y;
  const distance = (a: Station, b: Station): number =>
    Math.hypot(a.centre.x - b.centre.x, a.centre.y - b.centre.y);
  while (left.length > 0) {
    const score = (s: Station): number =>
      order.length === 0 ? -nearness(s) : Math.min(...order.map((o) => distance(o, s)));
    const next = left.reduce((best, s) => (score(s) > score(best) + LEAST_SIZE_MM ? s : best));
    order.push(next);
    left.splice(left.indexOf(next), 1);
  }
  return order;
}
