import type { Station } from '../proof';
import { COARSE_REACH_MM } from '../tolerance';
import type { OffsetAxis } from '../units';

import type { OtherPick } from '../readings';
import { ringOf } from '../readings/rings';

/** A reading as far as its reach is concerned. */
interface Reached {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly pick: OtherPick | { readonly line: number };
  readonly coarseMm: number | null;
}

/** Places read at the very end of what can be read there: the cut may be further off than was seen. */
export interface AtTheEnd {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly way: 'cross' | 'rings';
}

/** Readings of a set that ended at the end of the coarse cross, or at the last ring of a row. */
export function atTheEnd(stations: readonly Station[], readings: readonly Reached[]): AtTheEnd[] {
  return readings.flatMap((r): AtTheEnd[] => {
    const { stationId, axis, pick, coarseMm } = r;
    if (coarseMm !== null && Math.abs(coarseMm) >= COARSE_REACH_MM)
      return [{ stationId, axis, way: 'cross' }];
    if (!('school' in pick) || pick.school !== 'rings') return [];
    const rows = stations.flatMap((s) => (stationId.endsWith(`-${s.id}`) ? (s.rings ?? []) : []));
    const row = rows.find((w) => w.axis === axis);
    return row && Math.abs(ringOf(pick)) >= row.half ? [{ stationId, axis, way: 'rings' }] : [];
  });
}
