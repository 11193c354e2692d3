import { predictOffset, type AffineField } from '@/core/fit';
import type { ProofSheet } from '@/core/proof';
import { normalDeviate, type Random } from '@/core/random/random';
import { lookAtComb } from '@/core/rigsim';
import {
  combOf,
  handAt,
  lengthsOf,
  roughFor,
  tasksOf,
  type Task,
} from '@/features/calibrate/read/readingHand';
import type { KeptReading } from '@/features/calibrate/read/useReadings';
import { passReading, type PassReading } from '@/core/readings';

/** An operator at the reading desk: crosses where the desk asks for them, an eye with its blur. */
export function readAtDesk(
  sheet: ProofSheet,
  field: AffineField,
  random: Random,
  coarseBlurMm: number,
): PassReading[] {
  const tasks = tasksOf(sheet, 1);
  const kept: KeptReading[] = [];
  tasks.forEach((task, index) => {
    const hand = handAt(index, tasks, kept, predictOffset);
    const seen = lookAtComb(
      combOf(task),
      task.station.scaleCentre,
      field,
      random,
      undefined,
      null,
      coarseBlurMm,
    );
    const coarseRead = hand.mode === 'coarse' ? seen.coarseMm : null;
    const looked = { ...hand, coarseRead, steps: seen.pick.line };
    const lengths = lengthsOf(task, looked, roughFor(task, tasks, kept, predictOffset));
    kept.push({
      stationId: task.station.id,
      axis: task.axis,
      pick: { ...seen.pick, lengths },
      coarseMm: coarseRead,
    });
  });
  return kept.map((r) => passReading(stationOf(tasks, r), r.axis, r.pick, r.coarseMm));
}

const stationOf = (tasks: readonly Task[], r: KeptReading): Task['station'] =>
  tasks.find((t) => t.station.id === r.stationId)!.station;

/** A rig as far out as new ones are. */
export const roughTerms = (random: Random) => ({
  shiftXMm: 1.5 * normalDeviate(random),
  shiftYMm: 1.5 * normalDeviate(random),
  turnRad: 0.001 * normalDeviate(random),
  scaleAcross: 1 + 0.0015 * normalDeviate(random),
  scaleAlong: 1 + 0.0015 * normalDeviate(random),
  leanRad: 0.0007 * normalDeviate(random),
});
