import { COARSE_GRADUATION_MM, COARSE_REACH_MM, DEFAULT_ACUITY_OF_STEP } from '../tolerance';
import {
  addFields,
  composeTerms,
  fieldToTransform,
  transformToField,
  type AffineField,
  type Terms,
} from '../fit';
import { applyAffine, compose, invertAffine, type Affine, type Point } from '../geometry';
import type { ProofSheet, Station } from '../proof';
import { normalDeviate, seededRandom, type Random } from '../random/random';
import { cutLineMm, extraLengths, printedLineMm, type LineComb, type LinePick } from '../readings';

/** A rig whose truth is hidden from the operator; it stands in for a printer and a cutter. */
export interface SimulatedRig {
  readonly seed: number;
  /** Terms about `centre` with the settings at `settingsAtTruth`. */
  readonly truth: Terms;
  readonly centre: Point;
  readonly settingsAtTruth: Readonly<Record<string, number>>;
  /** What +1 on each setting really does to the cut. */
  readonly effects: Readonly<Record<string, AffineField>>;
  /** Shift of a single load, standard deviation per axis, mm. */
  readonly loadScatterMm: number;
  /** Acuity of the operator's eye as a share of the comb step. */
  readonly acuityOfStep?: number;
}

/** The displacement of the cut on one load, with the machine's settings as typed. */
export function loadField(
  rig: SimulatedRig,
  settings: Readonly<Record<string, number>>,
  load: number,
): AffineField {
  const base = transformToField(termsAbout(rig.truth, rig.centre), rig.centre);
  const set = Object.entries(rig.effects).reduce(
    (field, [id, effect]) => addFields(field, effect, (settings[id] ?? 0) - (rig.settingsAtTruth[id] ?? 0)),
    base,
  );
  const random = seededRandom(rig.seed * 7919 + load * 104729 + 1);
  return {
    ...set,
    exMm: set.exMm + rig.loadScatterMm * normalDeviate(random),
    eyMm: set.eyMm + rig.loadScatterMm * normalDeviate(random),
  };
}

/** T with the given terms, shift and linear part about `centre`. */
export function termsAbout(terms: Terms, centre: Point): Affine {
  const linear = composeTerms(terms);
  const middle = applyAffine(linear, centre);
  return { ...linear, tx: centre.x - middle.x + terms.shiftXMm, ty: centre.y - middle.y + terms.shiftYMm };
}

export interface SimulatedSight {
  readonly pick: Omit<LinePick, 'lengths'>;
  /** Where the coarse cut line crosses the graduations, to the nearest half millimetre. */
  readonly coarseMm: number;
}

/** Where a drawn point is cut: through the file's own correction, then by the rig. */
export const landing = (field: AffineField, fileTransform: Affine | null): Affine =>
  fileTransform === null
    ? fieldToTransform(field)
    : compose(fieldToTransform(field), invertAffine(fileTransform));

/** What an operator sees at a comb: the printed line that a landed cut line runs into. */
export function lookAtComb(
  comb: LineComb,
  scaleCentre: Point,
  field: AffineField,
  random: Random,
  acuityOfStep = DEFAULT_ACUITY_OF_STEP,
  fileTransform: Affine | null = null,
): SimulatedSight {
  const land = landing(field, fileTransform);
  const seen = acuityOfStep * comb.stepMm * normalDeviate(random);
  const coarse = applyAffine(land, scaleCentre);
  const coarseOff = comb.axis === 'across' ? coarse.x - scaleCentre.x : coarse.y - scaleCentre.y;
  return {
    pick: { line: bestLine(comb, landedLines(comb, land), seen), between: false },
    coarseMm:
      COARSE_GRADUATION_MM * Math.round((coarseOff + 0.05 * normalDeviate(random)) / COARSE_GRADUATION_MM),
  };
}

/** Where the comb's cut lines land, on the measured axis, relative to the comb's centre; mm. */
export function landedLines(comb: LineComb, land: Affine): number[] {
  const last = comb.halfLines + extraLengths(comb.stepMm, comb.halfLines, COARSE_REACH_MM);
  return Array.from({ length: 2 * last + 1 }, (_, j) => {
    const m = cutLineMm(comb, j - last);
    const across = comb.axis === 'across';
    const landed = applyAffine(land, {
      x: comb.centre.x + (across ? m : 0),
      y: comb.centre.y + (across ? 0 : m),
    });
    return across ? landed.x - comb.centre.x : landed.y - comb.centre.y;
  });
}

function bestLine(comb: LineComb, landed: readonly number[], seen: number): number {
  let best = { line: 0, gap: Infinity };
  for (let line = -comb.halfLines; line <= comb.halfLines; line += 1) {
    const printed = printedLineMm(comb, line);
    for (const place of landed) {
      const gap = Math.abs(place + seen - printed);
      if (gap < best.gap) best = { line, gap };
    }
  }
  return best.line;
}

/** Everything an operator would read from one set of a sheet. */
export function readSheet(
  sheet: ProofSheet,
  set: Station['set'],
  field: AffineField,
  random: Random,
  acuityOfStep?: number,
): { station: Station; across: SimulatedSight; along: SimulatedSight }[] {
  return sheet.stations
    .filter((station) => station.set === set)
    .map((station) => ({
      station,
      across: lookAtComb(station.across, station.scaleCentre, field, random, acuityOfStep),
      along: lookAtComb(station.along, station.scaleCentre, field, random, acuityOfStep),
    }));
}
