import type { LinePick } from '@/core/comb';
import type { OffsetAxis } from '@/core/units';

/*
 * The readings that this browser has not yet got an answer for, in the order they were entered. Each has its own
 * request number, so that one that was kept although the answer was lost is not kept twice.
 */

export interface Waiting {
  readonly request: string;
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly pick: LinePick;
  readonly coarseMm: number | null;
}

interface Comb {
  readonly stationId: string;
  readonly axis: OffsetAxis;
}

export const sameComb = (a: Comb, b: Comb): boolean => a.stationId === b.stationId && a.axis === b.axis;

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

/** What the log answered: how many changes the session had seen with it. */
export interface Answered {
  readonly changes: number;
}

/** What a page that heard of the log after `changes` changes does not know yet. */
export const notHeardOf = <A extends Answered>(answers: readonly A[], changes: number): A[] =>
  answers.filter((a) => a.changes > changes);
