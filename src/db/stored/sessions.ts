import { z } from 'zod';

import { READ_BY } from '@/core/proof';
import { seenShape } from '@/core/readings/registry';

import { before, codec } from './codec';
import { affine, field, finite, point, positive, rect, values } from './pieces';
import { markKit } from './setups';

/* JSON columns of proof sheets, passes, readings, fits and corrections. */

const comb = z.object({
  axis: z.enum(['across', 'along']),
  centre: point,
  stepMm: positive,
  halfLines: z.number().int().positive(),
  phaseMm: finite,
});

const ringChoice = z.object({ stepMm: positive, half: z.number().int().positive() });

const spec = z.object({
  sheetWidthMm: positive,
  sheetHeightMm: positive,
  workArea: rect,
  marks: markKit.nullable().default(null),
  columns: z.number().int().positive(),
  rows: z.number().int().positive(),
  secondSet: z.boolean(),
  unit: z.enum(['mm', 'in']),
  stepMm: positive,
  /** Nothing on sheets of before rings could be chosen. */
  rings: ringChoice.nullable().optional(),
  /** Nothing on sheets of before it could be chosen. */
  bothWays: z.boolean().optional(),
  /** Nothing on sheets of before it could be chosen, and on those read by the combs. */
  readBy: z.enum(READ_BY).optional(),
  seed: z.number().int(),
});

const station = z.object({
  id: z.string(),
  set: z.union([z.literal(1), z.literal(2)]),
  centre: point,
  across: comb,
  along: comb,
  scaleCentre: point,
  fromHigh: z.boolean().optional(),
  bandMm: positive.optional(),
  gapShape: z
    .object({
      centre: point,
      widthMm: positive,
      heightMm: positive,
      borders: z.object({ left: positive, right: positive, near: positive, far: positive }),
    })
    .optional(),
  rings: z
    .array(ringChoice.extend({ axis: z.enum(['across', 'along']), phaseMm: finite, centre: point }))
    .optional(),
});

const sheetOfOldest = z.object({
  version: z.string(),
  spec,
  bars: z.object({ across: positive, along: positive }).optional(),
  stations: z.array(station).min(1),
  printedOn: z.string().optional(),
  fileMap: affine.nullable().optional(),
});

const sheet = sheetOfOldest.extend({ layoutArea: rect });

const change = z.object({
  settingId: z.string(),
  from: finite,
  to: finite,
  movesXMm: finite,
  movesYMm: finite,
  clamped: z.boolean(),
  questioned: z.boolean().default(false),
});

const linePick = z.object({ line: z.number().int(), between: z.boolean(), lengths: z.number().int() });

export const sheetGeometry = codec('proof_sheets.geometry', sheet, [
  // Sheets of before the marks were laid out over the whole work area.
  before(sheetOfOldest, (s) => ({ ...s, layoutArea: s.spec.workArea })),
]);
export const sheetStation = codec('a station of proof_sheets.geometry', station);
export const foundShown = codec('found_terms.shown', values);
export const foundWorkArea = codec('found_terms.work_area', rect);
export const settingsAtCut = codec('passes.settings_at_cut', values);
export const passFile = codec('passes.file_transform', affine);
export const readingPick = codec('readings.pick', z.union([linePick, seenShape]));
export const settingChangesOf = codec('corrections.changes', z.array(change));
export const restTransform = codec('corrections.rest_transform', affine);
export const wholeTransform = codec('corrections.whole_transform', affine);
/* Of fits.result, which is kept as it was worked out, what the log is looked through for. */
export const fitField = codec('the field of fits.result', field);
export const fitCovariance = codec(
  'the covariance of fits.result',
  z.array(z.array(z.number()).length(6)).length(6),
);
export const fitNoise = codec('the noise of fits.result', z.object({ factor: z.number() }));
export const fitEye = codec('the residuals of fits.result', z.object({ chi2: z.number(), dof: z.number() }));
