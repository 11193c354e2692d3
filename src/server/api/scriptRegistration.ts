import { z } from 'zod';

import { placementFrom, placementRefusalText } from '@/core/placement';
import { above0, coordinate } from '@/core/readings/shapes';
import { apiError } from '@/server/base/apiError';
import { rectSchema } from '@/server/base/shapes';

/* POST /api/registration: where a print lies; shapes in docs/api.md. */

const places = (what: string) =>
  z
    .array(z.object({ x: coordinate, y: coordinate }), `“${what}” is a list of {"x","y"}.`)
    .min(1, `“${what}” is empty: give at least one.`)
    .max(1000, 'At most 1000 marks.');

export const registrationRequestSchema = z
  .object({
    marks: places('marks'),
    driven: places('driven'),
    u: above0('“u”').optional(),
    art: rectSchema.optional(),
    cuttable: rectSchema.optional(),
  })
  .superRefine(({ marks, driven }, context) => {
    if (marks.length !== driven.length)
      context.addIssue({
        code: 'custom',
        path: ['driven'],
        message: `${marks.length} marks and ${driven.length} places: give one place for each mark, in their order.`,
      });
  });

export function registrationForScript(request: z.output<typeof registrationRequestSchema>) {
  const { marks, driven, u, art, cuttable } = request;
  const found = placementFrom(marks, driven, { uMm: u, art, cuttable });
  return found.ok
    ? found.value
    : apiError(422, found.refusal.code, placementRefusalText(found.refusal), 'driven');
}
