import { seededRandom } from '../../random/random';
import { seenByEzdxf } from '@test/readers/outside';

import { correctFile, fileRefusalText, type CorrectedFile } from '../file';
import { affineMap, IDENTITY } from '../../geometry';

/* What a DXF file shows is what is cut of it; ezdxf, which is not ours, plots the same files beside. */

interface LayerOf {
  readonly name: string;
  readonly state: string;
}

/** Layers by name with their state in group codes. */
const STATES: Readonly<Record<string, readonly (string | number)[]>> = {
  shown: [70, 0, 62, 3],
  off: [70, 0, 62, -3],
  frozen: [70, 1, 62, 3],
  both: [70, 1, 62, -3],
  screen: [70, 0, 62, 3, 290, 0],
  locked: [70, 4, 62, 3],
  // A locked layer that is frozen, with what else a program sets beside.
  held: [70, 69, 62, 3],
};

const pairs = (...words: readonly (string | number)[]): string => `${words.join('\n')}\n`;

/** A line whose length is its number, mm. */
const line = (layer: string, number: number, more: readonly (string | number)[] = []): string =>
  pairs(0, 'LINE', 8, layer, ...more, 10, 10, 20, number, 11, 10 + number, 21, number);

const copy = (block: string, layer: string, more: readonly (string | number)[] = []): string =>
  pairs(0, 'INSERT', 8, layer, ...more, 2, block, 10, 0, 20, 0);

const file = (layers: readonly LayerOf[], blocks: readonly string[], body: string): string =>
  pairs(0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1015', 9, '$INSUNITS', 70, 4, 0, 'ENDSEC') +
  pairs(0, 'SECTION', 2, 'TABLES', 0, 'TABLE', 2, 'LAYER', 70, layers.length) +
  layers.map(({ name, state }) => pairs(0, 'LAYER', 2, name, ...STATES[state]!, 6, 'CONTINUOUS')).join('') +
  pairs(0, 'ENDTAB', 0, 'ENDSEC', 0, 'SECTION', 2, 'BLOCKS') +
  blocks
    .map((b, i) => pairs(0, 'BLOCK', 8, 0, 2, `B${i}`, 70, 0, 10, 0, 20, 0) + b + pairs(0, 'ENDBLK'))
    .join('') +
  pairs(0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES') +
  body +
  pairs(0, 'ENDSEC', 0, 'EOF');

function corrected(
  text: string,
  cutAll: readonly string[] = [],
  to: 'dxf' | 'hpgl' | 'svg' = 'dxf',
): CorrectedFile {
  const done = correctFile(text, affineMap(IDENTITY), to, { cutAll });
  if (!done.ok) throw new Error(fileRefusalText(done.refusal));
  return done.value;
}

/** Numbers of the lines, told by their lengths. */
const numbersOf = (lines: readonly (readonly { x: number; y: number }[])[]): number[] =>
  lines
    .map((l) => Math.round(Math.hypot(l.at(-1)!.x - l[0]!.x, l.at(-1)!.y - l[0]!.y)))
    .sort((a, b) => a - b);

const numbersCut = ({ outlines }: CorrectedFile): number[] =>
  numbersOf(
    outlines.map((o) => [
      { x: o.before[0]!, y: o.before[1]! },
      { x: o.before[2]!, y: o.before[3]! },
    ]),
  );

/** Layers in every state, lines on them and in blocks of blocks, some invisible. */
function anyFile(seed: number): string {
  const random = seededRandom(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const layers = Array.from({ length: 5 }, (_, i) => ({ name: `L${i}`, state: pick(Object.keys(STATES)) }));
  layers.push({ name: '0', state: random() < 0.8 ? 'shown' : 'off' }, { name: 'always', state: 'shown' });
  const names = [...layers.map((l) => l.name), 'of no table'];
  let number = 1;
  const lines = (count: number): string =>
    Array.from({ length: count }, () => line(pick(names), (number += 1), random() < 0.2 ? [60, 1] : [])).join(
      '',
    );
  // ezdxf lets a frozen layer of a copy hide nothing: that is tried by itself, below.
  const copied = layers.filter((l) => !['frozen', 'both', 'held'].includes(l.state)).map((l) => l.name);
  const placed = (block: number): string => copy(`B${block}`, pick(copied), random() < 0.2 ? [60, 1] : []);
  const blocks = [lines(3), lines(3) + placed(0), lines(2) + placed(1)];
  return file(layers, blocks, line('always', 500) + lines(6) + placed(pick([0, 1, 2])));
}

test('of 120 files with layers, blocks and switches of every kind, what ezdxf plots is what is cut', () => {
  const files = Array.from({ length: 120 }, (_, seed) => anyFile(seed + 1));
  const done = files.map((text) => corrected(text));
  const seen = seenByEzdxf(files);
  const again = seenByEzdxf(done.map((d) => d.content));
  let hidden = 0;
  for (const [i, made] of done.entries()) {
    const wanted = numbersOf(seen[i]!);
    expect(numbersCut(made)).toEqual(wanted);
    // What is written back shows the same and holds all of it; other formats get what is seen and no more.
    expect(numbersOf(again[i]!)).toEqual(wanted);
    expect(numbersCut(corrected(made.content))).toEqual(wanted);
    const left = made.report.leftUncut.reduce((sum, l) => sum + l.lines, 0);
    expect(made.content.match(/\nLINE\n/g)).toHaveLength(wanted.length + left);
    expect(corrected(files[i]!, [], 'svg').content.match(/<path /g)).toHaveLength(wanted.length);
    hidden += left;
  }
  expect(hidden).toBeGreaterThan(300);
});

const GUIDES = file(
  [
    { name: 'cut', state: 'shown' },
    { name: 'guides', state: 'off' },
    { name: 'old', state: 'frozen' },
    { name: 'notes', state: 'screen' },
  ],
  [line('cut', 70)],
  line('cut', 10) +
    line('GUIDES', 20) +
    line('guides', 21) +
    line('old', 30) +
    line('notes', 40) +
    line('Defpoints', 45) +
    line('cut', 50, [60, 1]) +
    copy('B0', 'old'),
);

test('what is not cut is named by layer and reason, and lies as it was in the file that comes back', () => {
  const { report, content } = corrected(GUIDES);
  expect(report).toMatchObject({ paths: 1, boundsBefore: { x0: 10, x1: 20, y0: 10, y1: 10 } });
  expect(report.leftUncut).toEqual([
    { layer: 'guides', why: 'layer-off', lines: 2 },
    { layer: 'old', why: 'layer-frozen', lines: 1 },
    { layer: 'notes', why: 'layer-not-plotted', lines: 1 },
    { layer: 'Defpoints', why: 'layer-not-plotted', lines: 1 },
    { layer: 'cut', why: 'invisible', lines: 1 },
    // A copy on a frozen layer is hidden whole, whatever its lines’ own layer says.
    { layer: 'cut', why: 'layer-frozen', lines: 1 },
  ]);
  expect(report.notes).toContainEqual({
    what: 'on “guides”: its layer is switched off, so it is not cut',
    count: 2,
  });
  expect(content).toContain(pairs(0, 'LAYER', 2, 'guides', 70, 0, 62, -3));
  expect(content).toContain(pairs(0, 'LAYER', 2, 'old', 70, 1, 62, 3));
  expect(content).toContain(pairs(0, 'LINE', 8, 'cut', 60, 1));
  const [seen] = seenByEzdxf([content]);
  expect(numbersOf(seen!)).toEqual([10]);
});

test.each([
  [['guides'], [10, 20, 21]],
  [['old'], [10, 30, 70]],
  [
    ['cut', 'notes'],
    [10, 40, 50, 70],
  ],
  [['Defpoints'], [10, 45]],
])('cut all the same: %j', (cutAll, wanted) => {
  const made = corrected(GUIDES, cutAll);
  expect(numbersCut(made)).toEqual(wanted);
  expect(numbersCut(corrected(made.content))).toEqual(wanted);
});

test('a file of which nothing is seen is refused in words that say so', () => {
  const done = correctFile(
    file([{ name: 'a', state: 'off' }], [], line('a', 10) + line('a', 20)),
    affineMap(IDENTITY),
  );
  expect(done).toEqual({ ok: false, refusal: { code: 'nothing-to-cut', uncut: 2 } });
  if (!done.ok) expect(fileRefusalText(done.refusal)).toContain('all of its 2 lines are hidden');
});

test('what is not cut and lies beyond a kilometre is left out instead of stopping the file', () => {
  const far = file(
    [{ name: 'a', state: 'off' }],
    [],
    line('b', 10) + pairs(0, 'LINE', 8, 'a', 10, 2e6, 20, 0, 11, 0, 21, 0),
  );
  expect(corrected(far).report.notes.map((n) => n.what)).toContain(
    'not cut, and too far away to be kept: left out',
  );
});
