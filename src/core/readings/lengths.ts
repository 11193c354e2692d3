import { z } from 'zod';

import { accept, refuse } from '../outcome';

import { lengthsRefusalText, readLengths } from './measuredLengths';
import { above0, stationIdSchema, stationPlace } from './shapes';
import { askedBy, type Way } from './way';

const lengths = z
  .array(
    z.object({
      from: stationIdSchema,
      to: stationIdSchema,
      lengthMm: above0('“lengthMm”').max(1e6, 'At most 1 km.'),
      u: above0('“u”'),
    }),
    'A list of {"from","to","lengthMm","u"}.',
  )
  .min(1, 'Give at least one length.')
  .max(5000, 'At most 5000 lengths.');

/** Lengths between features, of the cut and of the print. At Read they are kept as lengths: `server/sessions/lengths`. */
export const lengthsWay = {
  name: 'lengths',
  words: 'long lengths',
  script: askedBy({
    summary: 'Scales and lean from measured lengths',
    result: 'Scales, lean, their uncertainties, and which length to measure next.',
    request: z.object({
      features: z
        .array(z.object(stationPlace), '“features” is a list of {"id","x","y"}.')
        .min(2, 'Give at least two features.')
        .max(2000, 'At most 2000 features.'),
      cut: lengths,
      print: lengths.optional(),
    }),
    answer: ({ features, cut, print }) => {
      const read = readLengths(features, cut, print ?? null);
      if (read.ok) return accept(read.value);
      const { code } = read.refusal;
      return refuse({ code, message: lengthsRefusalText(read.refusal), field: 'cut' });
    },
  }),
} as const satisfies Way;
