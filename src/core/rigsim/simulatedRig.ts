import { COARSE_GRADUATION_MM, COARSE_REACH_MM, DEFAULT_ACUITY_OF_STEP } from '../tolerance';
import {
  addFields,
  composeTerms,
  fieldToTransform,
  transformToField,
  type AffineField,
  type Terms,
} from '../fit';
import { applyAffine, compose, IDENTITY, invertAffine, type Affine, type Point } from '../geometry';
import type { ProofSheet, Station } from '../proof';
import { normalDeviate, seededRandom, type Random } from '../random/random';
import { cutLineMm, extraLengths, printedLineMm, type LineComb, type LinePick } from '../comb';

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
  /** How far what is cut from the high side of an axis lands beyond what is cut from its low side, mm. */
  readonly backlashMm?: Point;
  /** What it does along a roll. */
  readonly roll?: SimulatedRoll;
}

/** Drift along a roll; x across, y along. */
export interface SimulatedRoll {
  readonly creepMmPerM: Point;
  /** Standard deviation of the creep from load to load. */
  readonly creepSdMmPerM: Point;
  readonly wanderMm2PerM: number;
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

/** The same field for a station that is cut from one side: backlash moves it by half of itself. */
export function fieldFrom(rig: SimulatedRig, field: AffineField, { fromHigh = false }: Station): AffineField {
  const { x, y } = rig.backlashMm ?? { x: 0, y: 0 };
  const side = fromHigh ? 0.5 : -0.5;
  return { ...field, exMm: field.exMm + side * x, eyMm: field.eyMm + side * y };
}

/** How finely the simulated wander is drawn. */
const WALK_STEP_MM = 25;

/**
 * The displacement of the cut at a distance along a long strip: the load's shift, creep and wander. Nothing of the
 * sheet's linear terms: marks on a sheet take those out, and along a strip the creep stands for them.
 */
export function stripField(
  rig: SimulatedRig,
  settings: Readonly<Record<string, number>>,
  load: number,
): (yMm: number) => AffineField {
  const sheet = loadField(rig, settings, load);
  const shift = applyAffine(fieldToTransform(sheet), rig.centre);
  const at = { x: shift.x - rig.centre.x, y: shift.y - rig.centre.y };
  const { roll } = rig;
  const random = seededRandom(rig.seed * 6101 + load * 15485863 + 5);
  const creep = {
    x: roll ? roll.creepMmPerM.x + roll.creepSdMmPerM.x * normalDeviate(random) : 0,
    y: roll ? roll.creepMmPerM.y + roll.creepSdMmPerM.y * normalDeviate(random) : 0,
  };
  const sd = Math.sqrt(((roll?.wanderMm2PerM ?? 0) * WALK_STEP_MM) / 1000);
  const walk: Point[] = [{ x: 0, y: 0 }];
  const walked = (steps: number): Point => {
    while (walk.length <= steps) {
      const last = walk.at(-1)!;
      walk.push({ x: last.x + sd * normalDeviate(random), y: last.y + sd * normalDeviate(random) });
    }
    return walk[steps]!;
  };
  return (yMm) => {
    const wander = walked(Math.max(0, Math.round(yMm / WALK_STEP_MM)));
    const tx = at.x + (creep.x * yMm) / 1000 + wander.x;
    const ty = at.y + (creep.y * yMm) / 1000 + wander.y;
    return transformToField({ ...IDENTITY, tx, ty }, rig.centre);
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
  coarseBlurMm = 0.05,
): SimulatedSight {
  const land = landing(field, fileTransform);
  const seen = acuityOfStep * comb.stepMm * normalDeviate(random);
  const coarse = applyAffine(land, scaleCentre);
  const coarseOff = comb.axis === 'across' ? coarse.x - scaleCentre.x : coarse.y - scaleCentre.y;
  return {
    pick: { line: bestLine(comb, landedLines(comb, land), seen), between: false },
    coarseMm:
      COARSE_GRADUATION_MM *
      Math.round((coarseOff + coarseBlurMm * normalDeviate(random)) / COARSE_GRADUATION_MM),
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
