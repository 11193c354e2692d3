import { z } from 'zod';

import { accept } from '../outcome';
import { STATION, type Station } from '../proof';
import { OFFSET_AXES } from '../units';

import { about, keptBy, type Way } from './way';

/*
 * Every station’s ring looked even all round at once: the cut is off by no more than an eye sees.
 */

/**
 * A border that is a tenth wider than the other still looks even: of the border round a station's hole that is so much off
 * (common practice, no source; a fifth is seen at a glance).
 */
export const EVEN_WITHIN_MM = 0.1 * (STATION.discRadiusMm - STATION.windowRadiusMm);

/** Names of what the quick look said, apart from those of the sheet's stations. */
const PREFIX = 'E';

export const evenWay = {
  name: 'even',
  words: 'even all round, at a glance',
  kept: keptBy({
    input: z.object({ stationId: z.undefined().optional() }),
    tell: (_, { stations }) => {
      const read = evenReadings(stations);
      return accept({ read, doubts: [], instead: read.map((r) => r.stationId) });
    },
    seen: z.object({ school: z.literal('even'), withinMm: z.number().positive() }),
    interval: (offsetMm, _, { withinMm }) => about(offsetMm, withinMm, withinMm / 10),
  }),
} as const satisfies Way;

/**
 * Every ring of a set even all round: nought at each station, off by no more than an eye sees. One look at all of them rounds
 * all of them alike, so that together they are no surer than one.
 */
export function evenReadings(stations: readonly Pick<Station, 'id' | 'centre'>[]) {
  const uMm = (EVEN_WITHIN_MM / Math.sqrt(3)) * Math.sqrt(stations.length);
  return stations.flatMap(({ id, centre }) =>
    OFFSET_AXES.map((axis) => ({
      ...{ stationId: `${PREFIX}-${id}`, axis, xMm: centre.x, yMm: centre.y, offsetMm: 0, uMm },
      pick: { school: 'even' as const, withinMm: EVEN_WITHIN_MM },
    })),
  );
}
