import { readingOrder } from '@/core/calibration';
import type { predictOffset } from '@/core/fit';
import type { ProofSheet, Station } from '@/core/proof';
import {
  coarseOffset,
  nearestLengths,
  pickObservation,
  tellsLengths,
  type LineComb,
  type RoughOffset,
} from '@/core/comb';
import { OFFSET_AXES, signedLengthFigure, toMm, type LengthUnit, type OffsetAxis } from '@/core/units';

import type { KeptReading } from './useReadings';

/* What the reading desk knows about its combs, apart from any screen. */

export interface Task {
  readonly station: Station;
  readonly axis: OffsetAxis;
}

/** Where the reading hand is: which comb, which of its two scales, and what is on the picture. */
export interface Hand {
  readonly task: number;
  readonly mode: 'coarse' | 'fine';
  readonly coarseMm: number;
  /** The coarse value that was read at this comb, or null when the fit was sure enough. */
  readonly coarseRead: number | null;
  /** Comb steps, halves included, within one comb length. */
  readonly steps: number;
}

/** The sum behind a comb’s lengths: the browser fetches it after the page can be seen. */
export type Predict = typeof predictOffset;

/** Both combs of the first station, and of the one farthest from it, begin with their crosses. */
const COARSE_TASKS = 4;

/** The comb of a task. */
export const combOf = (t: Task): LineComb => (t.axis === 'across' ? t.station.across : t.station.along);

/** Steps stay within one comb length; beyond an end they come back at the other. */
export const wrap = ({ halfLines }: Pick<LineComb, 'halfLines'>, steps: number): number => {
  const period = 2 * halfLines + 1;
  return steps > halfLines + 0.5 ? steps - period : steps < -halfLines ? steps + period : steps;
};

/** The printed line, or the place between it and the next, of a number of steps. */
export const pickWithin = (steps: number): { line: number; between: boolean } => {
  const line = Math.floor(steps);
  return { line, between: line !== steps };
};

/**
 * The steps of the printed line, or place between two, whose label was typed: in the unit of the labels. Null with what
 * would be right when the comb has no such label.
 */
export function stepsOfLabel(
  comb: LineComb,
  typed: string,
  unit: LengthUnit,
): { readonly steps: number } | { readonly message: string } {
  const figure = Number(typed.replace(',', '.').replace('−', '-'));
  const places = Array.from({ length: 4 * comb.halfLines + 1 }, (_, i) => i / 2 - comb.halfLines);
  const labelMm = (steps: number): number => comb.phaseMm + steps * comb.stepMm;
  const nearest = places.reduce((a, b) =>
    Math.abs(labelMm(b) - toMm(figure, unit)) < Math.abs(labelMm(a) - toMm(figure, unit)) ? b : a,
  );
  const close = comb.stepMm / 4;
  if (typed !== '' && Number.isFinite(figure) && Math.abs(labelMm(nearest) - toMm(figure, unit)) <= close)
    return { steps: nearest };
  const ends = [-comb.halfLines, comb.halfLines].map((k) => signedLengthFigure(labelMm(k), unit));
  return { message: `No line here is labelled ${typed}. This comb’s labels go from ${ends.join(' to ')}.` };
}

/** Whole comb lengths: from the coarse reading of this comb, else from what the fit predicts. */
export function lengthsOf(task: Task, hand: Hand, rough: RoughOffset | null): number {
  const known = hand.coarseRead === null ? rough : coarseOffset(hand.coarseRead);
  const { line, between } = pickWithin(hand.steps);
  return known === null ? 0 : nearestLengths(combOf(task), line, between, known);
}

/** The combs of a set in the order they are read: of both axes, or of one. */
export const tasksOf = (sheet: ProofSheet, set: 1 | 2, only: OffsetAxis | null = null): Task[] =>
  readingOrder(sheet.stations.filter((s) => s.set === set)).flatMap((station): Task[] =>
    OFFSET_AXES.filter((axis) => only === null || axis === only).map((axis) => ({ station, axis })),
  );

export const keptOf = (readings: readonly KeptReading[], t: Task): KeptReading | null =>
  readings.find((r) => r.stationId === t.station.id && r.axis === t.axis) ?? null;

/** How a comb is laid out when the eye comes to it: as it was read, else fine where the others tell its lengths. */
export function handAt(
  index: number,
  tasks: readonly Task[],
  readings: readonly KeptReading[],
  predict: Predict,
): Hand {
  const t = tasks[index]!;
  const before = keptOf(readings, t);
  if (before) {
    const steps = before.pick.line + (before.pick.between ? 0.5 : 0);
    return { task: index, mode: 'fine', coarseMm: before.coarseMm ?? 0, coarseRead: before.coarseMm, steps };
  }
  const known = roughFor(t, tasks, readings, predict);
  const sure = known !== null && tellsLengths(combOf(t), known);
  // A second cross, far from the first: one slipped cross would hide a whole comb length everywhere.
  const crossAnyway = index < COARSE_TASKS;
  // Every comb starts at its middle, so that the last reading does not lead the eye.
  return {
    task: index,
    mode: sure && !crossAnyway ? 'fine' : 'coarse',
    coarseMm: 0,
    coarseRead: null,
    steps: 0,
  };
}

/** The hand at the first comb that is not read yet. */
export function firstHand(
  sheet: ProofSheet,
  set: 1 | 2,
  readings: readonly KeptReading[],
  predict: Predict,
  only: OffsetAxis | null = null,
): Hand {
  const tasks = tasksOf(sheet, set, only);
  const open = tasks.findIndex((t) => keptOf(readings, t) === null);
  return handAt(Math.max(0, open), tasks, readings, predict);
}

/** What the readings of other combs say about this one. */
export function roughFor(
  t: Task,
  tasks: readonly Task[],
  readings: readonly KeptReading[],
  predict: Predict,
): RoughOffset | null {
  const observations = readings.flatMap((r) => {
    if (r.stationId === t.station.id && r.axis === t.axis) return [];
    const of = tasks.find((o) => o.station.id === r.stationId && o.axis === r.axis);
    return of ? [pickObservation(r.stationId, combOf(of), r.pick)] : [];
  });
  return predict(observations, t.axis, combOf(t).centre);
}

/** The kept offset of a station on one axis, mm; null when it is not read. */
export function readOffset(
  sheet: ProofSheet,
  readings: readonly KeptReading[],
  stationId: string,
  axis: OffsetAxis,
): number | null {
  const r = readings.find((o) => o.stationId === stationId && o.axis === axis);
  const station = sheet.stations.find((s) => s.id === stationId);
  if (!r || !station) return null;
  return pickObservation(stationId, axis === 'across' ? station.across : station.along, r.pick).offsetMm;
}

/** The next comb after `from`, going round, that is not kept yet; null when all are. */
export function nextOpen(tasks: readonly Task[], from: number, isKept: (t: Task) => boolean): number | null {
  for (let i = 1; i <= tasks.length; i += 1) {
    const index = (from + i) % tasks.length;
    if (!isKept(tasks[index]!)) return index;
  }
  return null;
}
