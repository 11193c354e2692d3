import { z } from 'zod';

import { NEW_ROLL_KIT } from '@/core/layout';
import { CORNERS, LAID_BY, LEAD_SIGNS, MARK_SHAPES, SIDES } from '@/core/marks';

import '../shapeWords';

/* Shapes of mark kits and roll kits: the browser looks at them while they are typed, the server when they come. */

const finite = z.number().refine(Number.isFinite);

const inset = (what: string) =>
  finite.nonnegative(`${what} cannot be negative.`).max(1000, `${what} can be at most 1 m.`);

export const markKitSchema = z.object({
  count: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)]),
  shape: z.enum(MARK_SHAPES),
  sizeMm: finite.min(1, 'A mark is at least 1 mm large.').max(60, 'A mark is at most 60 mm large.'),
  lineMm: finite.min(0.05, 'A line is at least 0.05 mm wide.').max(10, 'A line is at most 10 mm wide.'),
  colour: z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour is six hex digits, for example #000000.'),
  insetLeftMm: inset('The inset'),
  insetRightMm: inset('The inset'),
  insetNearMm: inset('The inset'),
  insetFarMm: inset('The inset'),
  shapes: z.partialRecord(z.enum(CORNERS), z.enum(MARK_SHAPES)).optional(),
  clearMm: inset('The clear zone'),
  clearSidesMm: z.partialRecord(z.enum(SIDES), inset('The clear zone')).optional(),
  frame: z.boolean().optional(),
  laidBy: z.enum(LAID_BY).optional(),
  leading: z.enum(CORNERS),
  leadSign: z.enum(LEAD_SIGNS),
  everyMm: finite.min(20, 'Marks stand at least 20 mm apart.').nullable(),
  printerEdgeMm: inset('The unprinted edge'),
  sensorEdgeMm: inset('The sensor’s distance'),
});

/** What a roll needs on a rig; lengths in mm. */
export const rollKitSchema = z.object({
  /** Media ahead of the first mark: rollers and a test cut. */
  leadMm: finite
    .min(0, 'The lead cannot be negative.')
    .max(10_000, 'At most 10 m.')
    .default(NEW_ROLL_KIT.leadMm),
  /** Media behind the last mark: the media sensor stays covered while the far marks are read. */
  tailMm: finite
    .min(0, 'The tail cannot be negative.')
    .max(10_000, 'At most 10 m.')
    .default(NEW_ROLL_KIT.tailMm),
  /** How wide a pinch roller is, and how near to the media's edge it may run. */
  rollerMm: finite
    .min(1, 'A roller is at least 1 mm wide.')
    .max(300, 'At most 300 mm.')
    .default(NEW_ROLL_KIT.rollerMm),
  rollerEdgeMm: finite
    .min(0, 'Not beyond the edge.')
    .max(300, 'At most 300 mm.')
    .default(NEW_ROLL_KIT.rollerEdgeMm),
  /** The farthest far marks it reads; null while only the calibrated sheet's are known to be read. */
  longestMm: finite.min(50, 'At least 50 mm.').max(60_000, 'At most 60 m.').nullable().default(null),
  /** The piece goes in the other way round first, for a test cut in the waste. */
  testCutTurned: z.boolean().default(false),
});

export type RollKit = z.output<typeof rollKitSchema>;

export { fileFrameSchema } from '../daily/fileFrameShape';
