import { applyAffine, compose, invertAffine, IDENTITY, type Affine } from '@/core/geometry';

import { firstMarks, readByHand, type MarkFields } from './byHand.view';

const SHEET = { widthMm: 210, heightMm: 297 };
const WORK = { x0: 10, y0: 15, x1: 200, y1: 285 };
const MARKS = [
  { x: 20, y: 20 },
  { x: 190, y: 20 },
  { x: 20, y: 277 },
];
/** x runs further, y left, zero at the near right corner. */
const TURNED: Affine = { a11: 0, a12: -1, a21: 1, a22: 0, tx: 210, ty: 0 };

/** The form as it is typed when the print lies elsewhere on the sheet. */
function typed(toSheet: Affine, lies: Affine, unit: 'mm' | 'in' = 'mm'): MarkFields[] {
  const toFile = invertAffine(toSheet);
  return firstMarks(MARKS, toSheet, unit).map((row, i) => {
    const at = applyAffine(compose(toFile, lies), MARKS[i]!);
    const by = unit === 'mm' ? 1 : 25.4;
    return { ...row, drivenX: String(at.x / by), drivenY: String(at.y / by) };
  });
}
const turnedBy = (rad: number, tx: number, ty: number): Affine => ({
  ...{ a11: Math.cos(rad), a12: -Math.sin(rad), a21: Math.sin(rad), a22: Math.cos(rad) },
  ...{ tx, ty },
});

test.each([
  ['the sheet’s own axes', IDENTITY],
  ['a file that lies turned', TURNED],
])('in %s it says right and back as the operator sees the sheet', (_, toSheet) => {
  const rows = typed(toSheet, { ...IDENTITY, tx: 3.2, ty: -1.1 });
  const said = readByHand(rows, { sheet: SHEET, workArea: WORK, toSheet }, 'mm');
  expect(said).toMatchObject({ kind: 'placed' });
  if (said.kind !== 'placed') return;
  expect(said.answer).toMatch(/3\.20 mm right and 1\.10 mm back .* not turned\.$/);
  said.found.forEach((p, i) => expect(p.x).toBeCloseTo(MARKS[i]!.x + 3.2, 3));
});

test('what is undone puts every point of the file where the print is, in the file’s own axes', () => {
  const lies = turnedBy(0.02, 15, -7);
  const rows = typed(TURNED, lies);
  const said = readByHand(rows, { sheet: SHEET, workArea: WORK, toSheet: TURNED }, 'mm');
  if (said.kind !== 'placed') throw new Error(said.kind);
  expect(said.answer).toContain('turned 1.15° anticlockwise');
  const p = { x: 100, y: 40 };
  // The writer undoes what it is given: commanded = undo⁻¹.
  const commanded = applyAffine(invertAffine(said.undo), p);
  const where = applyAffine(compose(compose(invertAffine(TURNED), lies), TURNED), p);
  expect(Math.hypot(commanded.x - where.x, commanded.y - where.y)).toBeLessThan(1e-3);
  // Turned by a degree the work area leaves the sheet.
  expect(said.placement.warnings).toMatchObject([{ code: 'art-outside' }]);
});

test('marks that were not driven to are left out; a wrong figure is named by its field; inches', () => {
  const setup = { sheet: SHEET, workArea: WORK, toSheet: IDENTITY };
  const rows = firstMarks(MARKS, IDENTITY, 'mm');
  expect(readByHand(rows, setup, 'mm')).toEqual({ kind: 'nothing' });
  const one = rows.map((r, i) => (i === 1 ? { ...r, drivenX: '191', drivenY: '20' } : r));
  const said = readByHand(one, setup, 'mm');
  expect(said.kind === 'placed' && said.answer).toMatch(
    /1\.00 mm right .* A second mark would tell its turn\.$/,
  );
  const half = rows.map((r, i) => (i === 1 ? { ...r, drivenX: '191' } : r));
  expect(readByHand(half, setup, 'mm')).toMatchObject({
    kind: 'wrong',
    errors: [{}, { drivenY: expect.any(String) as string }, {}],
  });
  const inches = readByHand(typed(IDENTITY, { ...IDENTITY, tx: 25.4 }, 'in'), setup, 'in');
  expect(inches.kind === 'placed' && inches.answer).toContain('1.000 in right');
  const same = rows.map((r) => ({ ...r, x: '20', y: '20', drivenX: '1', drivenY: '1' }));
  expect(readByHand(same, setup, 'mm')).toMatchObject({
    kind: 'refused',
    message: expect.stringMatching(/one place/) as string,
  });
});

test('a setup that reads no marks opens with an empty row', () => {
  expect(firstMarks([], IDENTITY, 'mm')).toEqual([{ x: '', y: '', drivenX: '', drivenY: '' }]);
});
