import { z } from 'zod';

import type { Waiting } from './waitingLine';

const waitingSchema = z.object({
  request: z.string(),
  stationId: z.string(),
  axis: z.enum(['across', 'along']),
  pick: z.object({ line: z.number(), between: z.boolean(), lengths: z.number() }),
  coarseMm: z.number().nullable(),
}) satisfies z.ZodType<Waiting>;

/** What was stored, whatever it has become: entries that cannot be read are left out. */
export function readLine(text: string | null): Waiting[] {
  try {
    const list: unknown = JSON.parse(text ?? '[]');
    if (!Array.isArray(list)) return [];
    return list.flatMap((entry) => {
      const read = waitingSchema.safeParse(entry);
      return read.success ? [read.data] : [];
    });
  } catch {
    return [];
  }
}
