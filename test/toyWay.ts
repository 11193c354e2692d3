import { z } from 'zod';

import { accept } from '@/core/outcome';
import { about, askedBy, freeName, keptBy, type Way } from '@/core/readings/way';

/** A way of reading that nobody would use: a thumb held beside the cut, to half a centimetre. */
export const thumbWay = {
  name: 'thumb',
  words: 'by the thumb',
  kept: keptBy({
    input: z.object({ x: z.number(), y: z.number(), thumbs: z.number('How many thumbs?') }),
    tell: ({ x, y, thumbs }, { taken }) =>
      accept({
        read: [
          {
            ...{ stationId: freeName('D', taken), axis: 'across', xMm: x, yMm: y },
            ...{ offsetMm: 20 * thumbs, uMm: 5, pick: { school: 'thumb' as const, thumbs } },
          },
        ],
        doubts: [],
        instead: [],
      }),
    seen: z.object({ school: z.literal('thumb'), thumbs: z.number() }),
    interval: (offsetMm, uMm) => about(offsetMm, uMm, 1),
  }),
  script: askedBy({
    summary: 'A thumb',
    result: 'So many millimetres.',
    request: z.object({ thumbs: z.number('“thumbs” is a number.') }),
    answer: ({ thumbs }) => accept({ offsetMm: 20 * thumbs }),
  }),
} as const satisfies Way;
