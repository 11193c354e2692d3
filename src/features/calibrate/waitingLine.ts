import { z } from 'zod';

/*
 * The readings that this browser has not yet got an answer for, in the order they were entered. Each has its own
 * request number, so that one that was kept although the answer was lost is not kept twice.
 */

export const waitingSchema = z.object({
  request: z.string(),
  stationId: z.string(),
  axis: z.enum(['across', 'along']),
  pick: z.object({ line: z.number(), between: z.boolean(), lengths: z.number() }),
  coarseMm: z.number().nullable(),
});
export type Waiting = z.output<typeof waitingSchema>;

interface Comb {
  readonly stationId: string;
  readonly axis: 'across' | 'along';
}

export const sameComb = (a: Comb, b: Comb): boolean => a.stationId === b.stationId && a.axis === b.axis;

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

/** With a new reading at the end; an older one of the same comb, which nobody need see any more, leaves. */
export const entered = (line: readonly Waiting[], reading: Waiting): Waiting[] => [
  ...line.filter((w) => !sameComb(w, reading)),
  reading,
];

/** Without what was answered, kept or refused. */
export const answered = (line: readonly Waiting[], request: string): Waiting[] =>
  line.filter((w) => w.request !== request);

/** What a page shows: what the log has, under what waits here. */
export const shown = <R extends Comb>(kept: readonly R[], waiting: readonly R[]): R[] => [
  ...kept.filter((k) => !waiting.some((w) => sameComb(w, k))),
  ...waiting,
];
