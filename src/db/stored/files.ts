import { z } from 'zod';

import { CUT_FORMATS } from '@/core/drawing/formats';

import type { Lies } from '../../core/daily';
import { type FileReport } from '../../core/drawing/file';

import { before, codec } from './codec';
import { affine, point, rect } from './pieces';

/* What is stored of a corrected file: its report, where it lay, and what the machine had to show. */

const counted = z.object({ what: z.string(), count: z.number() });

const reportBefore = z.object({
  version: z.string(),
  from: z.enum(CUT_FORMATS),
  to: z.enum(CUT_FORMATS),
  paths: z.number(),
  points: z.number(),
  lengthMm: z.number(),
  boundsBefore: rect,
  boundsAfter: rect,
  farthestMoveMm: z.number(),
  farthestAt: point,
  notes: z.array(counted),
});

const leftUncut = z.array(
  z.object({
    layer: z.string(),
    why: z.enum([
      'hidden',
      'see-through',
      'unpainted',
      'layer-off',
      'layer-frozen',
      'layer-not-plotted',
      'invisible',
    ]),
    lines: z.number(),
  }),
);

/** Before it was told what a file shows and does not: nothing was left uncut. */
export const fileReport = codec<FileReport>('corrected_files.report', reportBefore.extend({ leftUncut }), [
  before(reportBefore, (old): FileReport => ({ ...old, leftUncut: [] })),
]);

export const fileLies = codec<Lies>(
  'corrected_files.lies',
  z.object({
    map: affine,
    by: z.enum(['description', 'marks', 'sender']),
    marksAgree: z.boolean(),
    marksDiffer: z.boolean(),
    bounds: rect,
    overMm: z.number(),
  }),
);

export const fileTransform = codec('corrected_files.transform', affine);
