import fc from 'fast-check';

import { normalDeviate, seededRandom, type Random } from '../../random/random';
import { fQuantile } from '../../statistics';
import { crossedStudy, meanSquaresOf, repeatStudy, type Look } from '.';

interface Truth {
  readonly comb: number;
  readonly person: number;
  readonly interaction: number;
  readonly repeat: number;
}

/** A study drawn at random: standard deviations in mm. */
function drawn(random: Random, [n, p, r]: readonly [number, number, number], truth: Truth): number[][][] {
  const persons = Array.from({ length: p }, () => truth.person * normalDeviate(random));
  return Array.from({ length: n }, () => {
    const comb = truth.comb * normalDeviate(random);
    return persons.map((person) => {
      const cell = comb + person + truth.interaction * normalDeviate(random);
      return Array.from({ length: r }, () => cell + truth.repeat * normalDeviate(random));
    });
  });
}

describe('the distributions behind it', () => {
  // Upper 2.5 % points as tabled in handbooks of statistics (Pearson & Hartley, Biometrika tables; from memory).
  it.each([
    [0.975, 2, 18, 4.56],
    [0.975, 3, Infinity, 3.12],
    [0.025, 2, Infinity, 0.0253],
    [0.95, 5, 10, 3.33],
  ])('F below which %d lies, %d and %d degrees: %d', (p, a, b, f) => {
    expect(Number(fQuantile(p, a, b).toPrecision(3))).toBe(f);
  });
});

/** A balanced table with given mean squares: 10 combs, 3 persons, 3 repeats. */
function withMeanSquares(ms: {
  combs: number;
  persons: number;
  interaction: number;
  repeats: number;
}): number[][][] {
  const random = seededRandom(7);
  const raw = drawn(random, [10, 3, 3], { comb: 1, person: 1, interaction: 1, repeat: 1 });
  const is = meanSquaresOf(raw);
  const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
  const cells = raw.map((row) => row.map(mean));
  const combs = cells.map(mean);
  const persons = [0, 1, 2].map((j) => mean(cells.map((row) => row[j]!)));
  const all = mean(combs);
  const by = (name: keyof typeof ms): number => Math.sqrt(ms[name] / is[name].ms);
  return raw.map((row, i) =>
    row.map((cell, j) =>
      cell.map(
        (v) =>
          by('combs') * (combs[i]! - all) +
          by('persons') * (persons[j]! - all) +
          by('interaction') * (cells[i]![j]! - combs[i]! - persons[j]! + all) +
          by('repeats') * (v - cells[i]![j]!),
      ),
    ),
  );
}

describe('against a published study', () => {
  // Burdick, Borror & Montgomery 2003, after Houf & Berman 1988: 10 parts, 3 operators, 3 repeats. Mean squares, components
  // and intervals from memory; the intervals of the sum of all but the parts are quoted there as 1.20 to 27.02.
  const ms = { combs: 437.3284, persons: 19.6333, interaction: 2.6951, repeats: 0.5111 };
  const study = crossedStudy(withMeanSquares(ms))!;
  it('takes a table apart into its mean squares', () => {
    const told = meanSquaresOf(withMeanSquares(ms));
    expect(told.combs.ms).toBeCloseTo(ms.combs, 6);
    expect(told.repeats).toEqual({ ms: expect.closeTo(ms.repeats, 8), dof: 60 });
    expect(told.interaction.dof).toBe(18);
  });
  it('finds its components', () => {
    expect(study.person!.variance).toBeCloseTo(0.5646, 4);
    expect(study.interaction!.variance).toBeCloseTo(0.728, 4);
    expect(study.repeat.variance).toBeCloseTo(0.5111, 4);
    expect(study.oneReading.variance).toBeCloseTo(1.8037, 3);
  });
  it('finds its intervals', () => {
    expect(study.oneReading.low).toBeCloseTo(1.2, 1);
    expect(study.oneReading.high).toBeCloseTo(27.02, 1);
  });
});

describe('tables', () => {
  it('is a hand-reckoned two-way table: 2 combs, 2 persons, 1 reading', () => {
    // Rows 1, 3 and 5, 9: row means 2 and 7, columns 3 and 6, all 4.5; what is left is ±0.5.
    const told = meanSquaresOf([
      [[1], [3]],
      [[5], [9]],
    ]);
    expect([told.combs.ms, told.persons.ms, told.interaction.ms]).toEqual([25, 9, 1]);
  });
  it('tells nothing when nothing was read twice', () => {
    expect(crossedStudy([[[1]], [[2]]])).toBeNull();
    expect(crossedStudy([[[1, 2, 3]]])).toBeNull();
    expect(crossedStudy([])).toBeNull();
  });
  it('does not mind where the combs stand', () => {
    const one = drawn(seededRandom(1), [6, 2, 2], {
      comb: 0.1,
      person: 0.01,
      interaction: 0.01,
      repeat: 0.02,
    });
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 6, maxLength: 6 }),
        (by) => {
          const moved = one.map((row, i) => row.map((cell) => cell.map((v) => v + by[i]!)));
          const [a, b] = [crossedStudy(one)!, crossedStudy(moved)!];
          expect(b.repeat.variance).toBeCloseTo(a.repeat.variance, 9);
          expect(b.oneReading.high).toBeCloseTo(a.oneReading.high, 7);
        },
      ),
      { numRuns: 50 },
    );
  });
});

describe('intervals hold what they say', () => {
  it.each([
    ['one person, three times', [10, 1, 3], { comb: 0.1, person: 0, interaction: 0, repeat: 0.02 }],
    ['two persons, once', [18, 2, 1], { comb: 0.1, person: 0.02, interaction: 0, repeat: 0.02 }],
    ['three persons, twice', [10, 3, 2], { comb: 0.1, person: 0.02, interaction: 0.01, repeat: 0.02 }],
  ] as const)('%s: 95 of 100, within two', (_, size, truth) => {
    const random = seededRandom(5);
    const held = { repeat: 0, oneReading: 0, person: 0 };
    const trials = 1500;
    const all = truth.person ** 2 + truth.interaction ** 2 + truth.repeat ** 2;
    const within = (c: { low: number; high: number }, v: number): number => Number(c.low <= v && v <= c.high);
    for (let i = 0; i < trials; i += 1) {
      const study = crossedStudy(drawn(random, size, truth))!;
      held.repeat += within(study.repeat, truth.repeat ** 2);
      held.oneReading += within(study.oneReading, all);
      if (study.person) held.person += within(study.person, truth.person ** 2);
    }
    for (const name of ['repeat', 'oneReading', ...(size[1] > 1 ? (['person'] as const) : [])] as const) {
      expect(held[name] / trials).toBeGreaterThan(0.93);
      expect(held[name] / trials).toBeLessThan(0.97);
    }
  });
});

describe('a study of looks', () => {
  const looks = (person: string, offsets: readonly number[]): Look[] =>
    offsets.map((offsetMm, i) => ({ comb: `A${i}`, person, offsetMm }));
  const combs = Array.from({ length: 10 }, (_, i) => 0.1 * i);
  it('uses the largest balanced part of what there is', () => {
    const study = repeatStudy(
      [...looks('AB', combs), ...looks('AB', combs), ...looks('CD', combs.slice(0, 3))],
      0.1,
    )!;
    expect(study).toMatchObject({ used: 20, of: 23, who: ['AB'], combs: 10, repeats: 2 });
  });
  it('never takes a sharp eye for sharper than assumed, and says that a finer comb would tell more', () => {
    const study = repeatStudy([...looks('AB', combs), ...looks('AB', combs)], 0.1)!;
    expect(study.acuityMm).toBeNull();
    expect(study.advice).toEqual(['finer-comb']);
    // √(0.1²/12 + 0.02²) = 0.0351, × 1.96·√2
    expect(study.smallestSeenMm).toBeCloseTo(0.0973, 3);
  });
  it('reckons with an eye that differs, and asks for a loupe', () => {
    const study = repeatStudy(
      [
        ...looks('AB', combs),
        ...looks(
          'AB',
          combs.map((v, i) => v + (i % 2 ? 0.1 : -0.1)),
        ),
      ],
      0.1,
    )!;
    expect(study.acuityMm).toBeCloseTo(Math.sqrt(0.005), 6);
    expect(study.advice).toEqual(['loupe']);
  });
  it('says when two persons read differently', () => {
    const again = (by: number, k: number): number[] => combs.map((v, i) => v + by + (i % 3 === k ? 0.05 : 0));
    const study = repeatStudy(
      [
        ...looks('AB', again(0, 0)),
        ...looks('AB', again(0, 1)),
        ...looks('CD', again(0.2, 2)),
        ...looks('CD', again(0.2, 0)),
      ],
      0.1,
    )!;
    expect(study.advice).toContain('agree');
    expect(study.person!.variance).toBeGreaterThan(0.01);
  });
  it('asks for more before it is asked', () => {
    const few = combs.slice(0, 4);
    expect(repeatStudy([...looks('AB', few), ...looks('AB', few)], 0.1)!.advice[0]).toBe('more');
    expect(repeatStudy(looks('AB', combs), 0.1)).toBeNull();
    expect(repeatStudy([], 0.1)).toBeNull();
  });
});
