import fc from 'fast-check';

import { lengthRows, lengthsTold, type KeptLength, type PassReading } from '@/core/readings';

import { fieldPrediction, fitLadder, widestFit, type FieldEstimate } from '../fit';
import { applyAffine, type Affine } from '../geometry';
import { normalDeviate, seededRandom } from '../random/random';
import { termsAbout } from '../rigsim';
import { scatterOfLoads, shiftScatter } from '../correction';

import { assessPass } from '../calibration';
import { joinLengths } from './longLengths';

/* Long lengths between the stations of a sheet, beside what the stations say. */

const STATIONS = [0, 1, 2].flatMap((r) =>
  [0, 1, 2].map((c) => ({ id: String(3 * r + c + 1), x: 40 + 300 * c, y: 60 + 400 * r })),
);
const AREA = { x0: 0, y0: 0, x1: 680, y1: 920 };
const CENTRE = { x: 340, y: 460 };
const at = (id: string) => STATIONS.find((s) => s.id === id)!;

const truth = (random: () => number): Affine =>
  termsAbout(
    {
      ...{ shiftXMm: normalDeviate(random), shiftYMm: normalDeviate(random) },
      turnRad: 1e-3 * normalDeviate(random),
      scaleAcross: 1 + 1e-3 * normalDeviate(random),
      scaleAlong: 1 + 1e-3 * normalDeviate(random),
      leanRad: 1e-3 * normalDeviate(random),
    },
    CENTRE,
  );

/** A length as a ruler says it, printed true to size. */
function measured(
  t: Affine,
  from: string,
  to: string,
  resolutionMm: number,
  random: () => number,
): KeptLength {
  const [a, b] = [at(from), at(to)];
  const [p, q] = [applyAffine(t, a), applyAffine(t, b)];
  const read = (mm: number): number => {
    // Where on the ruler one begins is chance.
    const start = resolutionMm * random();
    return Math.round((mm + start) / resolutionMm) * resolutionMm - start;
  };
  return {
    ...{ from, to, resolutionMm },
    printMm: read(Math.hypot(b.x - a.x, b.y - a.y)),
    cutMm: read(Math.hypot(q.x - p.x, q.y - p.y)),
  };
}

const PAIRS = [
  ['1', '3'],
  ['1', '7'],
  ['1', '9'],
  ['3', '7'],
] as const;

function stationsRead(t: Affine, ids: readonly string[], uMm: number, random: () => number): PassReading[] {
  return ids.flatMap((id) => {
    const s = at(id);
    const p = applyAffine(t, s);
    return (['across', 'along'] as const).map((axis): PassReading => {
      const offsetMm = (axis === 'across' ? p.x - s.x : p.y - s.y) + uMm * normalDeviate(random);
      return {
        observation: { stationId: id, axis, xMm: s.x, yMm: s.y, offsetMm, uMm },
        interval: { loMm: offsetMm - uMm, hiMm: offsetMm + uMm, acuityMm: uMm },
        ...{ lengthMm: 0, coarseMm: null, lengthsOpen: false },
      };
    });
  });
}

function joined(t: Affine, ids: readonly string[], random: () => number, pairs = PAIRS): FieldEstimate {
  const observations = stationsRead(t, ids, 0.03, random).map((r) => r.observation);
  const fit = widestFit(fitLadder(observations, CENTRE))!;
  const kept = pairs.map(([a, b]) => measured(t, a, b, 0.1, random));
  return joinLengths(
    { ...fit, noise: { kind: 'given-u', factor: 1 } },
    observations,
    lengthRows(STATIONS, kept),
  );
}

test.each([
  ['nine stations and four lengths', STATIONS.map((s) => s.id)],
  ['four stations near each other and four lengths', ['1', '2', '4', '5']],
])('%s: 95 %% intervals at the far corner cover 93 to 97 %% of 1,000 rigs', (_, ids) => {
  const random = seededRandom(31);
  let held = 0;
  for (let trial = 0; trial < 1000; trial += 1) {
    const t = truth(random);
    const { field, covarianceKnownU } = joined(t, ids, random);
    const far = { x: AREA.x1, y: AREA.y1 };
    const told = fieldPrediction(field, covarianceKnownU, far);
    const really = applyAffine(t, far);
    if (Math.abs(told.meanX - (really.x - far.x)) < 1.96 * Math.sqrt(told.varX)) held += 0.5;
    if (Math.abs(told.meanY - (really.y - far.y)) < 1.96 * Math.sqrt(told.varY)) held += 0.5;
  }
  expect(held / 1000).toBeGreaterThan(0.93);
  expect(held / 1000).toBeLessThan(0.97);
});

test('lengths sharpen what few stations say of the scales, and never blur anything', () => {
  const random = seededRandom(5);
  const t = truth(random);
  const observations = stationsRead(t, ['1', '2', '4', '5'], 0.03, random).map((r) => r.observation);
  const fit = widestFit(fitLadder(observations, CENTRE))!;
  const kept = PAIRS.map(([a, b]) => measured(t, a, b, 0.1, random));
  const { covarianceKnownU: after } = joinLengths(fit, observations, lengthRows(STATIONS, kept));
  const before = fit.covarianceKnownU;
  for (let i = 0; i < 6; i += 1) expect(after[i]![i]!).toBeLessThanOrEqual(before[i]![i]! * (1 + 1e-9));
  // Scale across: the long side tells it three times as well as stations 300 mm apart.
  expect(Math.sqrt(after[0]![0]! / before[0]![0]!)).toBeLessThan(0.6);
  expect(joinLengths(fit, observations, [])).toBe(fit);
});

test('one place and four lengths: the whole sheet is spoken for, the turn that nobody read kept as doubt', () => {
  const random = seededRandom(8);
  const t = termsAbout(
    { shiftXMm: 0.4, shiftYMm: 0, turnRad: 0, scaleAcross: 1.002, scaleAlong: 1, leanRad: 0 },
    CENTRE,
  );
  const read = stationsRead(t, ['5'], 0.03, random);
  const kept = PAIRS.map(([a, b]) => measured(t, a, b, 0.1, random));
  const rows = lengthRows(STATIONS, kept);
  const alone = assessPass(read, [], AREA, 0.5)!;
  const both = assessPass(read, [], AREA, 0.5, {
    load: scatterOfLoads([], shiftScatter(0.03)),
    lengths: rows,
  })!;
  expect([alone.scope, both.scope]).toEqual(['one-place', 'whole-area']);
  expect(both.told.terms.scaleAcross).toBeCloseTo(1.002, 3);
  expect(both.told.termSe.turnRad).toBeGreaterThan(2e-3);
  // A turn of some milliradians is millimetres at the corner.
  expect(both.r95Mm).toBeGreaterThan(1);
});

test('lengths that lie alike round alike: together they count once', () => {
  const one = { from: '1', to: '3', printMm: 600, cutMm: 600.5, resolutionMm: 0.5 };
  const other = { from: '9', to: '7', printMm: 600, cutMm: 600, resolutionMm: 0.5 };
  expect(lengthRows(STATIONS, [one, other])).toEqual([
    { dx: 600, dy: 0, longerMm: 0.25, uMm: expect.closeTo(0.5 / Math.sqrt(6), 9) as number },
  ]);
  expect(lengthRows(STATIONS, [{ ...one, printMm: null }])[0]).toMatchObject({ longerMm: 0.5 });
  expect(lengthRows(STATIONS, [{ ...one, to: 'gone' }])).toEqual([]);
});

test('which length next: the longest across, along, a diagonal; then what sharpens most', () => {
  const told = (pairs: readonly (readonly [string, string])[]) =>
    lengthsTold(
      STATIONS,
      pairs.map(([from, to]) => ({
        from,
        to,
        printMm: null,
        cutMm: Math.hypot(at(to).x - at(from).x, at(to).y - at(from).y),
        resolutionMm: 0.5,
      })),
    );
  const first = told([]);
  expect([first.missing, first.answer]).toEqual(['', null]);
  const proposed: string[] = [];
  const done: [string, string][] = [];
  for (let i = 0; i < 4; i += 1) {
    const { next } = told(done);
    proposed.push(`${next!.from}-${next!.to}`);
    done.push([next!.from, next!.to]);
  }
  expect(told(done).answer).not.toBeNull();
  // Whatever comes first: a side across, a side along, and diagonals among four lengths.
  const spans = done.map(([a, b]) => [Math.abs(at(b).x - at(a).x), Math.abs(at(b).y - at(a).y)]);
  expect(
    spans.some(([dx, dy]) => dx === 600 && dy === 0) || spans.some(([dx, dy]) => dx === 600 && dy === 800),
  ).toBe(true);
  expect(told(PAIRS).answer!.scaleAcross.value).toBeCloseTo(1, 9);
});

test('whatever is kept, nothing breaks and no term is surer than the ruler allows', () => {
  const id = fc.constantFrom(...STATIONS.map((s) => s.id));
  const length = fc.record({
    from: id,
    to: id,
    printMm: fc.option(fc.double({ min: 1, max: 2000, noNaN: true })),
    cutMm: fc.double({ min: 1, max: 2000, noNaN: true }),
    resolutionMm: fc.constantFrom(0.01, 0.5, 5),
  });
  fc.assert(
    fc.property(fc.array(length, { maxLength: 6 }), (kept) => {
      const told = lengthsTold(STATIONS, kept);
      if (told.answer) expect(told.answer.scaleAcross.se).toBeGreaterThan(0.01 * (1 / Math.sqrt(12)) * 1e-4);
      else expect(typeof told.missing).toBe('string');
    }),
  );
});
