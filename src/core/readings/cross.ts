import { z } from 'zod';

import { accept, refuse } from '../outcome';
import { COARSE_GRADUATION_MM, COARSE_REACH_MM } from '../tolerance';
import { lengthText, OFFSET_AXES, type OffsetAxis } from '../units';

import { stationOfSheet } from './shapes';
import { about, keptBy, type Way } from './way';

/*
 * The coarse cross of one station by itself: where a rig is so far out that neither its rings nor its combs reach, a coarse
 * pass is corrected by this, and the next set is read fine.
 */

const PREFIX = 'K';

/** The name under which a station’s cross is kept. */
export const crossOf = (stationId: string): string => `${PREFIX}-${stationId}`;

const graduation = (axis: string) =>
  z
    .number(`Where does the cut line cross the cross, ${axis}?`)
    .min(-COARSE_REACH_MM, `The cross goes from −${COARSE_REACH_MM} to +${COARSE_REACH_MM} mm.`)
    .max(COARSE_REACH_MM, `The cross goes from −${COARSE_REACH_MM} to +${COARSE_REACH_MM} mm.`)
    .multipleOf(COARSE_GRADUATION_MM, 'To the nearest half.');

/** The cross of a station, both ways; read again it replaces what was read of it. */
export const crossWay = {
  name: 'cross',
  words: 'the coarse cross',
  kept: keptBy({
    input: z.object({ stationId: stationOfSheet, across: graduation('across'), along: graduation('along') }),
    tell: (given, { station }) => {
      if (!station) return refuse({ code: 'not-found', what: 'station' });
      const name = crossOf(station.id);
      return accept({
        read: OFFSET_AXES.map((axis) => ({
          ...{ stationId: name, axis, xMm: station.centre.x, yMm: station.centre.y },
          // Rounding to the nearest graduation: rectangular (JCGM 100:2008 F.2.2.1).
          ...{ offsetMm: given[axis], uMm: COARSE_GRADUATION_MM / Math.sqrt(12) },
          pick: { school: 'cross' as const },
        })),
        doubts: OFFSET_AXES.filter((axis) => Math.abs(given[axis]) >= COARSE_REACH_MM).map((axis) => ({
          ...{ station: station.id, code: 'end-of-cross' as const },
          message: `The cross ${WORDS[axis]} was read at its very end, ${lengthText(COARSE_REACH_MM, 'mm')}: the cut may be further off.`,
        })),
        instead: [name],
      });
    },
    seen: z.object({ school: z.literal('cross') }),
    interval: (offsetMm) => about(offsetMm, COARSE_GRADUATION_MM / 2, COARSE_GRADUATION_MM / 10),
  }),
} as const satisfies Way;

const WORDS: Readonly<Record<OffsetAxis, string>> = { across: 'across', along: 'along the feed' };
