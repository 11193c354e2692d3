import { z } from 'zod';

import { HEADINGS, perpendicular, type FileFrame } from '@/core/daily';
import { CORNERS } from '@/core/marks';

import '../shapeWords';

const place = z
  .number('Type the place of the file’s zero on the sheet, for example 12.')
  .min(-1e5, 'That is farther than any sheet reaches.')
  .max(1e5, 'That is farther than any sheet reaches.');

/** How a rig’s cut files lie on the sheet: typed in a form, kept in the rig’s row. */
export const fileFrameSchema = z
  .object({
    xRuns: z.enum(HEADINGS),
    yRuns: z.enum(HEADINGS),
    zero: z.discriminatedUnion('at', [
      z.object({ at: z.literal('corner'), corner: z.enum(CORNERS) }),
      z.object({ at: z.literal('mark') }),
      z.object({ at: z.literal('middle') }),
      z.object({ at: z.literal('typed'), xMm: place, yMm: place }),
    ]),
  })
  .refine((f) => perpendicular(f.xRuns, f.yRuns), {
    path: ['yRuns'],
    message: 'y runs across x: choose one of the two directions square to it.',
  }) satisfies z.ZodType<FileFrame>;
