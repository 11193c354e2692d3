import { PAPERS, sizeWords } from './sizeWords';

const paper = (name: string) => PAPERS.find((p) => p.name === name)!;

/** A size of ISO 216: the standard's first sheet, halved so often across its longer side, whole millimetres downwards. */
function iso216(first: readonly [number, number], halvings: number): [number, number] {
  let [w, h] = first;
  for (let i = 0; i < halvings; i += 1) [w, h] = [Math.floor(h / 2), w];
  return [w, h];
}

// ISO 216:2007: A0 is 841 × 1189 mm (1 m² with sides as 1 to √2), B0 1000 × 1414 mm; each next is the one before halved.
test.each([
  ...[1, 2, 3, 4, 5, 6].map((n) => ['A', n, [841, 1189]] as const),
  ...[2, 3, 4, 5].map((n) => ['B', n, [1000, 1414]] as const),
])('%s%d is as ISO 216 has it', (series, n, first) => {
  const { widthMm, heightMm } = paper(`${series}${n}`);
  expect([widthMm, heightMm]).toEqual(iso216(first, n));
  // Within rounding the sides are as 1 to √2.
  expect(Math.abs(heightMm / widthMm - Math.SQRT2)).toBeLessThan(0.01);
});

// ANSI/ASME Y14.1: A 8.5 × 11 in; each next has the longer side of the one before as its shorter, and twice its shorter.
test.each([
  ['Letter', 8.5, 11],
  ['Tabloid', 11, 17],
  ['ANSI C', 17, 22],
  ['ANSI D', 22, 34],
])('%s is %d × %d in', (name, w, h) => {
  expect(paper(name).widthMm).toBeCloseTo(25.4 * w, 9);
  expect(paper(name).heightMm).toBeCloseTo(25.4 * h, 9);
});

test('a sheet is called by its name, a hair off too; any other by its sides', () => {
  expect(sizeWords({ sheetWidthMm: 250.1, sheetHeightMm: 353 }, 'mm')).toBe('B4');
  expect(sizeWords({ sheetWidthMm: 300, sheetHeightMm: 353 }, 'mm')).toBe('300 × 353 mm');
  expect(new Set(PAPERS.map((p) => p.name)).size).toBe(PAPERS.length);
});
