import { readFileSync } from 'node:fs';

import { affineMap, IDENTITY, invertMap, mapPoint, type PlaneMap, type Point } from '../../geometry';
import { termsAbout } from '../../rigsim';
import { AWKWARD_SVG } from '@test/awkward.svg';
import { BOMBS } from '@test/hostile/bombs';
import { fault, FORMATS_TO } from '@test/hostile/judge';
import { mutated } from '@test/hostile/mutate';
import {
  farthestFrom,
  readByEzdxf,
  readByHp2xx,
  readManyByEzdxf,
  strokesByHp2xx,
} from '@test/readers/outside';
import { samplePath } from '@test/svgPoints';
import type { CutFormat } from '@/core/drawing/formats';

import { correctFile, fileRefusalText, formatOf, type CorrectedFile } from '.';

const read = (name: string): string => readFileSync(`test/files/${name}`, 'latin1');

const RIG = affineMap(
  termsAbout(
    { shiftXMm: -1.7, shiftYMm: -2.3, turnRad: 0.004, scaleAcross: 1.003, scaleAlong: 0.996, leanRad: 0.005 },
    { x: 100, y: 90 },
  ),
);
const TILTED: PlaneMap = {
  kind: 'projective',
  h11: 1.001,
  h12: 0.002,
  h13: -1.2,
  h21: -0.001,
  h22: 0.999,
  h23: -0.8,
  h31: 2e-6,
  h32: -4e-6,
};

function corrected(content: string, map: PlaneMap, to: CutFormat | null = null): CorrectedFile {
  const outcome = correctFile(content, map, to);
  if (!outcome.ok) throw new Error(fileRefusalText(outcome.refusal));
  return outcome.value;
}

/** Page points of written SVG, y up, mm: files of ours have one unit a millimetre. */
function readSvg(svg: string): Point[][] {
  const [, x, y, w, h] = /viewBox="(\S+) (\S+) (\S+) (\S+)"/.exec(svg)!.map(Number) as number[];
  expect([x, y, w! > 0]).toEqual([0, 0, true]);
  return [...svg.matchAll(/<path[^>]*? d="([^"]*)"/g)].map(([, d]) =>
    samplePath(d!, 300, 1).map((p) => ({ x: p.x, y: h! - p.y })),
  );
}

const SOURCES: Readonly<Record<string, (content: string) => Point[][]>> = {
  'gnuplot.dxf': readByEzdxf,
  'pstoedit.dxf': readByEzdxf,
  'ezdxf-r12.dxf': readByEzdxf,
  'ezdxf-r2010-inch.dxf': readByEzdxf,
  'gnuplot.hpgl': readByHp2xx,
  'pstoedit.hpgl': readByHp2xx,
};
/** Each source is read once by the other program. */
const seen = new Map<string, Point[][]>();
function sourceLines(name: string): Point[][] {
  const lines = seen.get(name) ?? SOURCES[name]!(read(name));
  seen.set(name, lines);
  return lines;
}

/** Files of a format as other programs read them, all of one kind at once. */
const READERS: Readonly<Record<CutFormat, (contents: readonly string[]) => Point[][][]>> = {
  svg: (contents) => contents.map(readSvg),
  dxf: readManyByEzdxf,
  hpgl: (contents) => strokesByHp2xx(contents),
};
/** Half a plotter unit each way, and what hp2xx prints of it. */
const WITHIN_MM: Readonly<Record<CutFormat, number>> = { svg: 0.005, dxf: 0.005, hpgl: 0.025 };

const MAPS = { affine: RIG, projective: TILTED } as const;

/** Every source into every format, every format by both kinds of map from half of the sources. */
const CASES = Object.keys(SOURCES).flatMap((name, i) =>
  (['dxf', 'hpgl', 'svg'] as const).map((to, j) => ({
    ...{ name, to, kind: (i + j) % 2 === 0 ? ('affine' as const) : ('projective' as const) },
  })),
);

/** Written once, and read by the other programs in one go. */
const writtenAs = (() => {
  const made = new Map<string, { report: CorrectedFile['report']; written: Point[][] }>();
  const keyOf = (c: (typeof CASES)[number]): string => Object.values(c).join(' ');
  return (wanted: (typeof CASES)[number]) => {
    if (made.size === 0)
      for (const to of ['dxf', 'hpgl', 'svg'] as const) {
        const own = CASES.filter((c) => c.to === to);
        const files = own.map(({ name, kind }) => corrected(read(name), MAPS[kind], to));
        const seen = READERS[to](files.map((f) => f.content));
        own.forEach((c, i) => made.set(keyOf(c), { report: files[i]!.report, written: seen[i]! }));
      }
    return made.get(keyOf(wanted))!;
  };
})();

test.each(CASES)(
  '$name corrected by an $kind map and written as $to lies on the exact map for other readers',
  (one) => {
    const { name, to, kind } = one;
    const { report, written } = writtenAs(one);
    const correction = invertMap(MAPS[kind]);
    const meant = sourceLines(name).map((line) => line.map((p) => mapPoint(correction, p)));
    // Zero is the page’s corner, also of a drawing that reaches below it; then that is said.
    const below = Math.min(report.boundsAfter.x0, report.boundsAfter.y0) < -0.02;
    const said = report.notes.some((n) => n.what.includes('outside the SVG’s page'));
    expect(said).toBe(to === 'svg' && below);
    // Samples of an arc are joined by chords here.
    const curveOfReader = to === 'svg' ? 0.001 : 0;
    expect(farthestFrom(written, meant.flat())).toBeLessThan(WITHIN_MM[to] + curveOfReader);
    // And nothing was added: every written point lies on what was meant, as far as the other reader's chords tell.
    const chord = name.endsWith('.hpgl') ? 0.06 : 0.001;
    expect(farthestFrom(meant, written.flat())).toBeLessThan(WITHIN_MM[to] + chord);
  },
);

test('an SVG with nested transforms, arcs, copies and frames comes out alike as SVG, DXF and HPGL', () => {
  // Moved clear of the origin: hp2xx moves what lies below it.
  const away = affineMap({ ...IDENTITY, a12: 0.003, a22: 0.998, tx: -30, ty: -40 });
  const asSvg = corrected(AWKWARD_SVG, away, 'svg');
  const unit = ({ x, y }: Point): Point => ({ x: (x + 10) * 0.5, y: 180 - (y - 5) * 0.5 });
  const meant = [...asSvg.content.matchAll(/<path[^>]*? d="([^"]*)"/g)].map(([, d]) =>
    samplePath(d!, 60).map(unit),
  );
  for (const to of ['dxf', 'hpgl'] as const) {
    const [written] = READERS[to]([corrected(AWKWARD_SVG, away, to).content]) as [Point[][]];
    expect(farthestFrom(written, meant.flat())).toBeLessThan(WITHIN_MM[to]);
  }
  expect(asSvg.report.notes).toEqual(corrected(AWKWARD_SVG, away).report.notes);
});

test('layers, colours and pens go with the lines; what a format cannot keep is said', () => {
  const { content, report } = corrected(read('ezdxf-r12.dxf'), RIG);
  expect(content).toMatch(/\n2\noutline\n70\n0\n62\n1\n/);
  expect(content).toMatch(/\n2\nholes\n70\n0\n62\n5\n/);
  const said = report.notes.map((n) => n.what).join('\n');
  expect(said).toContain('TEXT left out');
  expect(said).toContain('copies of blocks written out in place');
  const pens = corrected(
    'IN;VS20;SP2;PU400,400;PD800,400;SP3;FS80;PU400,800;PD800,800;LBhello\u0003;SP0;',
    affineMap(IDENTITY),
  );
  expect(pens.content).toBe('IN;SP2;VS20;PU400,400;PD800,400;SP3;FS80;PU400,800;PD800,800;PU;SP0;\n');
  expect(pens.report.notes).toEqual([{ what: 'label (LB) left out: text is not a cut line', count: 1 }]);
  const toDxf = corrected(
    'IN;VS20;SP2;PU400,400;PD800,400;SP3;PU400,800;PD800,800;',
    affineMap(IDENTITY),
    'dxf',
  );
  expect(toDxf.content).toContain('pen_3');
  expect(toDxf.report.notes[0]!.what).toContain('speed and force');
});

test('totals: paths, cut length, bounds and the farthest point are those of a drawing worked out by hand', () => {
  // A square of 100 mm and a circle of radius 20 mm, scaled by a thousandth too long.
  const square = 'IN;SP1;PU0,0;PD4000,0,4000,4000,0,4000,0,0;PU2000,2000;CI800;';
  const { report } = corrected(square, affineMap({ ...IDENTITY, a22: 1.001 }));
  expect(report).toMatchObject({ paths: 2, boundsBefore: { x0: 0, y0: 0, x1: 100, y1: 100 } });
  expect(report.lengthMm).toBeCloseTo(400 + 2 * Math.PI * 20, 0);
  expect(report.farthestMoveMm).toBeCloseTo(100 - 100 / 1.001, 9);
  expect(report.farthestAt.y).toBe(100);
  expect(report.boundsAfter.y1).toBeCloseTo(100 / 1.001, 9);
});

const deep = `<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm">${'<g>'.repeat(10_000)}<path d="M0 0L9 9"/>${'</g>'.repeat(10_000)}</svg>`;
const loop =
  '0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nA\n10\n0\n20\n0\n0\nINSERT\n2\nA\n0\nENDBLK\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nINSERT\n2\nA\n0\nENDSEC\n0\nEOF\n';

test.each([
  ['nothing', '', 'empty'],
  ['only spaces', '  \n ', 'empty'],
  ['a binary file', '\u0089PNG\r\n\u001a\n\u0000\u0000', 'binary'],
  ['a letter', 'Dear operator, cut this.', 'unknown-format'],
  ['groups 10 000 deep', deep, 'too-deep'],
  [
    'an entity bomb',
    '<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><svg>&b;</svg>',
    'declares-entities',
  ],
  ['more than 32 MB', ' '.repeat(33 * 1024 * 1024), 'file-too-large'],
  ['a DXF cut in half', read('ezdxf-r12.dxf').slice(0, 3000), 'cut-short'],
  ['a DXF with words for codes', '0\nSECTION\nabout\nthis\n0\nEOF\n', 'not-dxf'],
  ['a block that draws itself', loop, 'block-loop'],
  [
    'a DXF figure of 1e308',
    '0\nSECTION\n2\nENTITIES\n0\nLINE\n10\n1e308\n20\n0\n11\n1\n21\n1\n0\nEOF\n',
    'bad-figure',
  ],
  ['a DXF figure that is none', '0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nNaN\n20\n0\n0\nEOF\n', 'bad-figure'],
  ['a DXF of words', '0\nSECTION\n2\nENTITIES\n0\nTEXT\n1\nhello\n0\nEOF\n', 'nothing-to-cut'],
  ['an absurd HPGL figure', 'IN;PU0,0;PD99999999999999999999,1;', 'bad-figure'],
  ['an HPGL coordinate without its partner', 'IN;PU0,0;PD5;', 'bad-figure'],
  ['HPGL units that depend on the machine', 'IN;SC0,100,0,100;PD1,1;', 'not-understood'],
  ['encoded HPGL', 'IN;PE<=ab;', 'not-understood'],
  ['a page turned by 45°', 'IN;RO45;PD400,400;', 'not-understood'],
  ['a line from where a label ends', 'IN;PU0,0;LBhello\u0003PD400,400;', 'not-understood'],
  ['HPGL without a line', 'IN;SP1;PU400,400;SP0;', 'nothing-to-cut'],
])('rejects %s with a sentence', (_, content, code) => {
  const outcome = correctFile(content, RIG);
  expect(outcome.ok ? 'corrected' : outcome.refusal.code).toBe(code);
  if (!outcome.ok) expect(fileRefusalText(outcome.refusal)).toMatch(/\.$/);
});

const SEEDS = 500;

/** A part of `npm run fuzz`: real files with figures made awkward, pieces doubled and ends cut off. */
test.each([
  ['svg', AWKWARD_SVG],
  ['svg', read('potrace.svg')],
  ['dxf', read('ezdxf-r12.dxf').slice(0, 2600) + '0\nENDSEC\n0\nEOF\n'],
  ['hpgl', read('pstoedit.hpgl')],
] as const)(`${SEEDS} mutated %s files: corrected soundly or refused with a sentence`, (format, source) => {
  for (let seed = 1; seed <= SEEDS; seed += 1) {
    const to = FORMATS_TO[seed % FORMATS_TO.length]!;
    const found = fault(mutated(source, format, seed), to, seed % 11 === 0);
    if (found) throw new Error(`seed ${seed} to ${to}: ${found}`);
  }
});

const REFUSED: readonly (readonly [string, string])[] = [
  ['svg: a width of 40,000 digits', 'bad-value'],
  ['svg: a transform of 40,000 digits', 'bad-value'],
  ['svg: one path of 10 MB', 'path-too-long'],
  ['svg: copies of copies', 'too-many-copies'],
  ['svg: 10,000 copies of a large group', 'too-many-elements'],
  ['svg: figures beyond a kilometre', 'out-of-reach'],
  ['svg: a singular transform', 'too-small'],
  ['svg: all of it in a point', 'too-small'],
  ['dxf: 300,000 bulges', 'too-many-points'],
  ['dxf: a block of blocks of blocks', 'too-many-entities'],
  ['hpgl: 50,000 arcs of many turns', 'too-many-points'],
  ['hpgl: a figure of 100,000 digits', 'bad-figure'],
];

test.each(Object.keys(BOMBS).filter((name) => !REFUSED.some(([refused]) => refused === name)))(
  '%s is corrected or refused, and what is written can be read',
  (name) => expect(fault(BOMBS[name]!(), null)).toBeNull(),
);

test.each(REFUSED)('%s is refused for what it is, with a sentence', (name, code) => {
  const outcome = correctFile(BOMBS[name]!(), RIG);
  expect(outcome.ok ? 'corrected' : outcome.refusal.code).toBe(code);
  if (!outcome.ok) expect(fileRefusalText(outcome.refusal)).toMatch(/[.?]$/);
});

test('curves that a format has no room for are told, and the same file is fine as SVG', () => {
  const tame = `<svg xmlns="http://www.w3.org/2000/svg" width="99mm" height="99mm">${'<circle cx="50000" cy="0" r="90000"/>'.repeat(600)}</svg>`;
  expect(correctFile(tame, RIG, 'hpgl')).toMatchObject({ ok: false, refusal: { code: 'too-fine' } });
  expect(correctFile(tame, RIG, 'svg').ok).toBe(true);
});

test('the format is told by how a file begins, not by its name', () => {
  const formats = (['gnuplot.svg', 'pstoedit.svg', ...Object.keys(SOURCES)] as const).map((name) => {
    const found = formatOf(read(name));
    return [name.split('.')[1], found.ok ? found.value : found.refusal.code];
  });
  for (const [wanted, found] of formats) expect(found).toBe(wanted);
});

test.each(['svg', 'dxf', 'hpgl'] as const)(
  'lines that the correction moves below zero are told, as %s',
  (to) => {
    const drawn = 'IN;SP1;PU0,0;PD4000,0,4000,4000,0,0;PU;';
    const moved = (tx: number, ty: number) => {
      const done = correctFile(drawn, affineMap({ a11: 1, a12: 0, a21: 0, a22: 1, tx, ty }), to);
      if (!done.ok) throw new Error(done.refusal.code);
      return done.value.report.notes.map((n) => n.what).filter((what) => what.includes('below zero'));
    };
    expect(moved(0.25, -0.4)).toEqual([expect.stringContaining('0.25 mm in x,')]);
    expect(moved(0.25, 0.1)).toEqual([expect.stringContaining('0.25 mm in x and 0.10 mm in y')]);
    expect(moved(-1, -1)).toEqual([]);
  },
);
