import fc from 'fast-check';

import { fitModel, transformToField, fieldAt, type Observation } from '../fit';
import { normalDeviate, seededRandom, type Random } from '../random/random';
import { termsAbout } from '../rigsim';

import { type StationReading } from '.';
import { readTable, tableRows, type ReadOffset } from './table';
import { readRings } from './rings';
import { readLengths } from './measuredLengths';
import { readGaps } from './gaps';

/* Every school ends in stations: what each says by hand, and that its 95 % intervals hold. */

const CENTRE = { x: 150, y: 200 };
const PLACES = [30, 150, 270].flatMap((x) => [30, 200, 370].map((y) => ({ x, y })));
const GOLDEN = (Math.sqrt(5) - 1) / 2;

const hiddenRig = (random: Random) => {
  const d = (sd: number): number => sd * normalDeviate(random);
  const terms = {
    ...{ shiftXMm: d(0.2), shiftYMm: d(0.2), turnRad: d(0.0004) },
    ...{ scaleAcross: 1 + d(0.0004), scaleAlong: 1 + d(0.0004), leanRad: d(0.0003) },
  };
  return { terms, field: transformToField(termsAbout(terms, CENTRE), CENTRE) };
};

const observed = (stations: readonly StationReading[]): Observation[] =>
  stations.flatMap((s) => [
    { stationId: s.id, axis: 'across' as const, xMm: s.x, yMm: s.y, offsetMm: s.dx!, uMm: s.ux! },
    { stationId: s.id, axis: 'along' as const, xMm: s.x, yMm: s.y, offsetMm: s.dy!, uMm: s.uy! },
  ]);

/** Share of terms of 1,000 hidden rigs that lie within 1.96 standard errors of what the affine fit says. */
function coverage(
  read: (at: { x: number; y: number }, serial: number, random: Random) => StationReading,
): number {
  const random = seededRandom(11);
  let [held, all] = [0, 0];
  for (let trial = 0; trial < 1000; trial += 1) {
    const { terms, field } = hiddenRig(random);
    const stations = PLACES.map((p, i) => {
      const at = fieldAt(field, p);
      return { ...read(at, trial * 9 + i, random), id: String(i), ...p };
    });
    const fit = fitModel('affine', observed(stations), CENTRE);
    if (fit.status !== 'ok') throw new Error(fit.message);
    const sd = (i: number): number => Math.sqrt(fit.covarianceKnownU[i]![i]!);
    const errors = [
      (fit.terms.shiftXMm - terms.shiftXMm) / sd(4),
      (fit.terms.shiftYMm - terms.shiftYMm) / sd(5),
      (fit.terms.scaleAcross - terms.scaleAcross) / sd(0),
      (fit.terms.scaleAlong - terms.scaleAlong) / sd(3),
    ];
    held += errors.filter((e) => Math.abs(e) <= 1.96).length;
    all += errors.length;
  }
  return held / all;
}

describe('rings with an even border', () => {
  const row = (ring: number, between = false, phaseMm = 0.02) =>
    ({ axis: 'across', stepMm: 0.1, phaseMm, pick: { ring, between } }) as const;

  test.each([
    ['the third ring', [row(3)], -0.32],
    ['between the third and the next', [row(3, true)], -0.37],
    ['on the other side', [row(-2)], 0.18],
  ])('%s', (_, rows, dx) => {
    const { stations, doubts } = readRings([{ id: 'A1', x: 10, y: 20, rows }]);
    expect(stations[0]).toMatchObject({ id: 'A1', x: 10, y: 20, dy: null, uy: null });
    expect(stations[0]!.dx).toBeCloseTo(dx, 12);
    // JCGM 100:2008 F.2.2.1: 0.29 of the step, and the eye's 0.2 of it.
    expect(stations[0]!.ux).toBeCloseTo(0.1 * Math.sqrt(1 / 12 + 0.04), 12);
    expect(doubts).toEqual([]);
  });

  test('two staggered rows of one axis are surer than one; rows that contradict each other are said', () => {
    const two = readRings([{ id: 'a', x: 0, y: 0, rows: [row(3), row(3, false, -0.03)] }]);
    expect(two.stations[0]!.dx).toBeCloseTo(-0.295, 2);
    expect(two.stations[0]!.ux).toBeLessThan(0.1 * Math.sqrt(1 / 12 + 0.04));
    const apart = readRings([{ id: 'a', x: 0, y: 0, rows: [row(3), row(-3)] }]);
    expect(apart.doubts).toMatchObject([{ station: 'a', code: 'rows-disagree' }]);
    expect(apart.stations[0]!.ux).toBeGreaterThan(0.2);
  });

  test('over 1,000 hidden rigs its 95 % intervals hold', () => {
    const pickOf = (offset: number, phaseMm: number, random: Random) => {
      const seen = (-offset - phaseMm) / 0.1 + 0.2 * normalDeviate(random);
      return { ring: Math.round(seen), between: false };
    };
    const share = coverage((at, serial, random) => {
      const phase = (k: number): number => (((serial * 2 + k) * GOLDEN) % 1) * 0.1 - 0.05;
      const rows = ([at.x, at.y] as const).map((offset, k) => ({
        axis: k === 0 ? ('across' as const) : ('along' as const),
        ...{ stepMm: 0.1, phaseMm: phase(k), pick: pickOf(offset, phase(k), random) },
      }));
      return readRings([{ id: 'a', x: 0, y: 0, rows }]).stations[0]!;
    });
    expect(share).toBeGreaterThan(0.93);
    expect(share).toBeLessThan(0.97);
  });
});

describe('gaps round a shape', () => {
  test('offset, size error and how sure, by hand', () => {
    const gaps = { left: 2.5, right: 3.5, near: 2, far: 2 };
    const [equal] = readGaps([{ id: 'a', x: 1, y: 2, gaps, resolutionMm: 0.5 }]).stations;
    expect(equal).toMatchObject({ dx: 0.5, dy: 0, sizeXMm: 6, sizeYMm: 4 });
    // Equal borders round alike: no surer than one gap, 0.5/√12.
    expect(equal!.ux).toBeCloseTo(0.5 / Math.sqrt(12), 12);
    const nominal = { left: 3, right: 2.8, near: 2, far: 2.1 };
    const [told] = readGaps([{ id: 'a', x: 1, y: 2, gaps, nominal, resolutionMm: 0.5 }]).stations;
    expect(told!.dx).toBeCloseTo(0.6, 12);
    expect(told!.sizeXMm).toBeCloseTo(0.2, 12);
    expect(told!.uy).toBeCloseTo(0.5 / Math.sqrt(24), 12);
  });

  test('a size that no cut has is questioned; one gap of a border that nobody told says nothing', () => {
    const { stations, doubts } = readGaps([
      { id: 'a', x: 0, y: 0, gaps: { left: 3, right: 3, near: 1, far: null }, resolutionMm: 0.5 },
    ]);
    expect(stations[0]).toMatchObject({ dx: 0, dy: null, sizeYMm: null });
    expect(doubts).toMatchObject([{ station: 'a', code: 'impossible-size' }]);
    expect(doubts[0]!.message).toMatch(/6\.00 mm too wide/);
  });

  test('one gap beside a border that is known is the offset, less sure by what the shape’s size may be out', () => {
    const gaps = { left: 1.5, right: null, near: null, far: 2.25 };
    const nominal = { left: 2, right: 2, near: 2, far: 2 };
    const [one] = readGaps([{ id: 'a', x: 0, y: 0, gaps, nominal, resolutionMm: 0.25 }]).stations;
    expect(one).toMatchObject({ dx: 0.5, dy: 0.25, sizeXMm: null, sizeYMm: null });
    expect(one!.ux).toBeCloseTo(Math.hypot(0.25 / Math.sqrt(12), 0.05), 12);
  });

  test('over 1,000 hidden rigs the 95 % intervals of one gap an axis hold, sizes out as shapes are', () => {
    const rounded = (mm: number): number => Math.round(mm / 0.25) * 0.25;
    const share = coverage((at, _serial, random) => {
      const border = (): number => 2 + 0.25 * random();
      const nominal = { left: border(), right: border(), near: border(), far: border() };
      const larger = (): number => 0.05 * normalDeviate(random);
      const gaps = {
        ...{ left: null, far: null },
        right: rounded(nominal.right + at.x + larger()),
        near: rounded(nominal.near - at.y + larger()),
      };
      return readGaps([{ id: 'a', x: 0, y: 0, gaps, nominal, resolutionMm: 0.25 }]).stations[0]!;
    });
    expect(share).toBeGreaterThan(0.93);
    expect(share).toBeLessThan(0.97);
  });

  test('over 1,000 hidden rigs its 95 % intervals hold', () => {
    const rounded = (mm: number): number => Math.round(mm / 0.25) * 0.25;
    const share = coverage((at, _serial, random) => {
      const border = (): number => 2 + 0.25 * random();
      const nominal = { left: border(), right: border(), near: border(), far: border() };
      const gaps = {
        left: rounded(nominal.left - at.x),
        right: rounded(nominal.right + at.x),
        near: rounded(nominal.near - at.y),
        far: rounded(nominal.far + at.y),
      };
      return readGaps([{ id: 'a', x: 0, y: 0, gaps, nominal, resolutionMm: 0.25 }]).stations[0]!;
    });
    expect(share).toBeGreaterThan(0.93);
    expect(share).toBeLessThan(0.97);
  });
});

describe('long lengths and diagonals', () => {
  const [W, H] = [250, 380];
  const FEATURES = [
    { id: 'o', x: 0, y: 0 },
    { id: 'r', x: W, y: 0 },
    { id: 'f', x: 0, y: H },
    { id: 'd', x: W, y: H },
  ];
  const u = 0.2;
  const measured = (shape: { sx: number; sy: number; lean: number }, error: () => number = () => 0) =>
    (
      [
        ['o', 'r'],
        ['o', 'f'],
        ['o', 'd'],
        ['r', 'f'],
      ] as const
    ).map(([from, to]) => {
      const [a, b] = [from, to].map((id) => FEATURES.find((f) => f.id === id)!) as [
        (typeof FEATURES)[0],
        (typeof FEATURES)[0],
      ];
      const y = shape.sy * (b.y - a.y);
      const x = shape.sx * (b.x - a.x) + y * Math.tan(shape.lean);
      return { from, to, lengthMm: Math.hypot(x, y) + error(), u };
    });

  test('lean from the diagonals of a rectangle: sin(lean) = (D1² − D2²)/(4 W H)', () => {
    // A parallelogram of 100 × 100 with sides as measured and diagonals 142.0 and 140.8.
    const [d1, d2] = [142.0, 140.8];
    const sine = (d1 ** 2 - d2 ** 2) / (4 * 100 * 100);
    const side = 100;
    const features = FEATURES.map((f) => ({ ...f, x: (f.x / W) * 100, y: (f.y / H) * 100 }));
    const read = readLengths(
      features,
      [
        { from: 'o', to: 'r', lengthMm: side, u: 1e-3 },
        { from: 'o', to: 'f', lengthMm: side, u: 1e-3 },
        { from: 'o', to: 'd', lengthMm: d1, u: 1 },
        { from: 'r', to: 'f', lengthMm: d2, u: 1 },
      ],
      null,
    );
    if (!read.ok) throw new Error(read.refusal.code);
    expect(Math.sin(read.value.leanRad.value)).toBeCloseTo(sine, 4);
  });

  test('the cut against the print: what the print is itself is taken out', () => {
    const cut = measured({ sx: 1.003, sy: 0.999, lean: 0.002 });
    const print = measured({ sx: 1.001, sy: 1.0005, lean: 0.0005 });
    const read = readLengths(FEATURES, cut, print);
    if (!read.ok) throw new Error(read.refusal.code);
    expect(read.value.scaleAcross.value).toBeCloseTo(1.003 / 1.001, 9);
    expect(read.value.scaleAlong.value).toBeCloseTo(0.999 / 1.0005, 9);
    expect(read.value.leanRad.value).toBeCloseTo(0.0015, 9);
    expect(read.value.rmsMm).toBeLessThan(1e-9);
  });

  test('the two sides of a rectangle round alike: together they are no surer than one', () => {
    const cut = measured({ sx: 1, sy: 1, lean: 0 });
    const twice = readLengths(FEATURES, [...cut, { ...cut[0]!, from: 'f', to: 'd' }], null);
    const once = readLengths(FEATURES, cut, null);
    expect(twice.ok && twice.value.scaleAcross.se).toBeCloseTo(once.ok ? once.value.scaleAcross.se : 0, 12);
  });

  test.each([
    ['only across', [['o', 'r']], 'scaleAlong'],
    ['only along', [['o', 'f']], 'scaleAcross'],
    [
      'no diagonal',
      [
        ['o', 'r'],
        ['o', 'f'],
        ['f', 'd'],
      ],
      'leanRad',
    ],
  ] as const)('%s: it says which term these lengths cannot tell', (_, pairs, term) => {
    const read = readLengths(
      FEATURES,
      pairs.map(([from, to]) => ({ from, to, lengthMm: from === 'o' && to === 'f' ? H : W, u })),
      null,
    );
    expect(read.ok ? null : read.refusal).toEqual({ code: 'cannot-tell', term });
  });

  test('over 1,000 hidden rigs its 95 % intervals hold, and the length it asks for helps as much as it says', () => {
    const random = seededRandom(5);
    let held = 0;
    for (let i = 0; i < 1000; i += 1) {
      const d = (sd: number): number => sd * normalDeviate(random);
      const shape = { sx: 1 + d(0.001), sy: 1 + d(0.001), lean: d(0.001) };
      const read = readLengths(
        FEATURES,
        measured(shape, () => u * normalDeviate(random)),
        null,
      );
      if (!read.ok) throw new Error(read.refusal.code);
      const { scaleAcross, scaleAlong, leanRad } = read.value;
      for (const [told, truth] of [
        [scaleAcross, shape.sx],
        [scaleAlong, shape.sy],
        [leanRad, shape.lean],
      ] as const)
        held += Number(Math.abs(told.value - truth) <= 1.96 * told.se);
    }
    expect(held / 3000).toBeGreaterThan(0.93);
    expect(held / 3000).toBeLessThan(0.97);
    const three = measured({ sx: 1, sy: 1, lean: 0 }).slice(0, 3);
    const before = readLengths(FEATURES, three, null);
    if (!before.ok) throw new Error(before.refusal.code);
    // Sides and one diagonal: the other diagonal tells most of the lean.
    expect(before.value.sharpen[0]).toMatchObject({ from: 'r', to: 'f' });
    expect(before.value.sharpen[0]!.gain).toBeGreaterThan(0.05);
  });
});

describe('a table', () => {
  const HEAD = 'Station;X (mm);Y (mm);dx [in];dy [in]\n';
  test('semicolons, decimal commas, a unit in the heading, an axis that was not read', () => {
    const read = readTable(`${HEAD}A1;20;30;0,010;-0,004\nA2;200,5;30;;0,002`, {}, 'mm');
    if (!read.ok) throw new Error(read.refusal.code);
    expect(read.value.doubts).toEqual([]);
    const [a, b] = read.value.stations;
    expect(a).toMatchObject({ id: 'A1', x: 20, y: 30 });
    expect(a!.dx).toBeCloseTo(0.254, 9);
    expect(b).toMatchObject({ x: 200.5, dx: null, ux: null });
    // Written to a thousandth of an inch: r/√12.
    expect(a!.ux).toBeCloseTo(0.0254 / Math.sqrt(12), 9);
  });

  test('columns by name, rows that are no figures left out and named, names made unlike', () => {
    const csv = 'p,q,e,f,s\n10,20,0.1,0.2,0.05\n10,20,x,0.2,0.05\n10,20,0.1,0.2,0';
    const read = readTable(csv, { x: 'p', y: 'q', dx: 'e', dy: 'f', u: 's' }, 'mm');
    if (!read.ok) throw new Error(read.refusal.code);
    expect(read.value.stations).toHaveLength(1);
    expect(read.value.stations[0]).toMatchObject({ dx: 0.1, dy: 0.2, u: 0.05 });
    expect(read.value.doubts.map((d) => d.code)).toEqual(['unreadable-row', 'unreadable-row']);
    const twice = readTable('id,x,y,dx\na,1,2,0.1\na,3,4,0.2', {}, 'mm');
    expect(twice.ok && twice.value.stations.map((s) => s.id)).toEqual(['a', 'a-2']);
  });

  test.each([
    ['hello', {}, 'no-table'],
    ['x,y,z\n1,2,3', {}, 'no-column'],
    ['x,y,dx\n1,2,3', { dx: 'offset' }, 'no-column'],
  ])('%j with %j is refused', (csv, columns, code) => {
    const read = readTable(csv, columns, 'mm');
    expect(read.ok ? 'read' : read.refusal.code).toBe(code);
  });

  test('what is written out is read in again', () => {
    const mm = fc.integer({ min: -50_000, max: 50_000 }).map((v) => v / 100);
    fc.assert(
      fc.property(fc.array(fc.tuple(mm, mm, mm, mm), { minLength: 1, maxLength: 20 }), (rows) => {
        const csv = ['x\ty\tdx\tdy\tu', ...rows.map((r) => [...r, 0.03].join('\t'))].join('\n');
        const read = readTable(csv, {}, 'mm');
        expect(read.ok && read.value.stations.map((s) => [s.x, s.y, s.dx, s.dy])).toEqual(rows);
      }),
      { numRuns: 50 },
    );
  });
});

test('property: what was read comes back from its own table as it was', () => {
  const mm = (least: number, most: number) =>
    fc.integer({ min: 1000 * least, max: 1000 * most }).map((v) => v / 1000);
  const place = fc.record({
    x: mm(0, 300),
    y: mm(0, 400),
    dx: mm(-5, 5),
    dy: fc.option(mm(-5, 5)),
    u: mm(0.01, 1),
  });
  fc.assert(
    fc.property(fc.array(place, { minLength: 1, maxLength: 12 }), (places) => {
      const readings = places.flatMap(({ x, y, dx, dy, u }, i): ReadOffset[] => {
        const at = { stationId: `S${i + 1}`, xMm: x, yMm: y, uMm: u };
        const across: ReadOffset = { ...at, axis: 'across', offsetMm: dx };
        return dy === null ? [across] : [across, { ...at, axis: 'along', offsetMm: dy }];
      });
      const csv = tableRows(readings)
        .map((row) => row.map((v) => v ?? '').join(','))
        .join('\r\n');
      const back = readTable(csv, {}, 'in');
      if (!back.ok) throw new Error(JSON.stringify(back.refusal));
      expect(back.value.doubts).toEqual([]);
      expect(back.value.stations).toEqual(
        places.map(({ x, y, dx, dy, u }, i) => expect.objectContaining({ id: `S${i + 1}`, x, y, dx, dy, u })),
      );
    }),
  );
});
