import { buildProofSheet, type ProofSheet, type ProofSpec } from '@/core/proof';
import type { Observation } from '@/core/fit';
import { coarseOffset, nearestLengths, pickObservation } from '@/core/comb';
import type { Random } from '@/core/random/random';
import { readSheet, type SimulatedRig } from '@/core/rigsim';
import type { AffineField } from '@/core/fit';

export const A4_AREA = { x0: 10, y0: 15, x1: 200, y1: 285 } as const;
export const A4_CENTRE = { x: 105, y: 150 } as const;

export const A4_SPEC: ProofSpec = {
  sheetWidthMm: 210,
  sheetHeightMm: 297,
  workArea: A4_AREA,
  marks: null,
  columns: 3,
  rows: 3,
  secondSet: true,
  unit: 'mm',
  stepMm: 0.1,
  seed: 1,
};

export function proofSheet(spec: Partial<ProofSpec> = {}): ProofSheet {
  const built = buildProofSheet({ ...A4_SPEC, ...spec });
  if (!built.ok) throw new Error(`proofSheet: ${JSON.stringify(built.refusal)}`);
  return built.value;
}

export const TRUE_TERMS: SimulatedRig['truth'] = {
  shiftXMm: 0,
  shiftYMm: 0,
  turnRad: 0,
  scaleAcross: 1,
  scaleAlong: 1,
  leanRad: 0,
};

/** One set of a sheet, read by the simulated operator, as observations. */
export function observe(
  sheet: ProofSheet,
  set: 1 | 2,
  field: AffineField,
  random: Random,
  acuityOfStep?: number,
): Observation[] {
  return readSheet(sheet, set, field, random, acuityOfStep).flatMap(({ station, across, along }) =>
    [across, along].map((sight, i) => {
      const comb = i === 0 ? station.across : station.along;
      const lengths = nearestLengths(comb, sight.pick.line, sight.pick.between, coarseOffset(sight.coarseMm));
      return pickObservation(station.id, comb, { ...sight.pick, lengths });
    }),
  );
}
