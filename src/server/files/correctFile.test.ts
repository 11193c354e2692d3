import { correctFieldsSchema, correctFileByMap, mapSchema } from './correctFile';

const AFFINE = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 1, ty: -2 };
const PROJECTIVE = { h11: 1, h12: 0, h13: 1, h21: 0, h22: 1, h23: -2, h31: 0, h32: 0 };
const SQUARE =
  '<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="30mm" viewBox="0 0 30 30"><path d="M10 10H20V20H10Z"/></svg>';

test.each<[string, object, RegExp | null]>([
  ['affine', AFFINE, null],
  ['projective', PROJECTIVE, null],
  ['one that folds', { ...AFFINE, a11: -1 }, /folds the sheet over/],
  ['one that stretches fivefold', { ...AFFINE, a11: 5 }, /out of all measure/],
  ['a projective one that folds', { ...PROJECTIVE, h22: -1 }, /folds the sheet over/],
  ['one without its shift', { ...AFFINE, tx: undefined }, /“map” is/],
  ['text', { ...AFFINE, a12: '0' }, /“map” is|must be a number/],
  ['nothing', {}, /“map” is/],
])('a map that is %s', (_, map, words) => {
  const parsed = mapSchema.safeParse(map);
  if (words === null) expect(parsed.success).toBe(true);
  else expect(parsed.error!.issues.map((i) => i.message).join(' ')).toMatch(words);
});

test.each<[string, object, RegExp]>([
  ['a map that is not JSON', { map: '{a11:1}' }, /“map” is JSON/],
  ['an id that is none', { correction: 'latest' }, /id of a stored correction/],
  ['a format nobody reads', { to: 'ai' }, /“to” is svg, dxf, hpgl/],
  ['rest that is neither', { rest: 'yes' }, /“true” or “false”/],
])('%s is refused by its field', (_, fields, words) => {
  const parsed = correctFieldsSchema.safeParse(fields);
  expect(parsed.error!.issues[0]!.message).toMatch(words);
  expect(parsed.error!.issues[0]!.path).toEqual([Object.keys(fields)[0]]);
});

test('affine and projective of the same map give the same file; the square moves against the map', async () => {
  const both = [AFFINE, PROJECTIVE].map(async (map) => {
    const done = await correctFileByMap(SQUARE, mapSchema.parse(map), 'hpgl');
    if (!done.ok) throw new Error(done.refusal.code);
    return done.value;
  });
  const [a, p] = await Promise.all(both);
  expect(p!.content).toBe(a!.content);
  // y is up from the lower edge: 10 to 20 mm becomes 12 to 22, x becomes 9 to 19.
  for (const [side, mm] of Object.entries({ x0: 9, y0: 12, x1: 19, y1: 22 }))
    expect(a!.report.boundsAfter[side as 'x0']).toBeCloseTo(mm, 9);
  expect(a!.report.farthestMoveMm).toBeCloseTo(Math.hypot(1, 2), 9);
});

test('a file that is no cut file is refused with a sentence', async () => {
  for (const text of ['', 'hello', '<html></html>', '\u0000\u0001'])
    expect(await correctFileByMap(text, mapSchema.parse(AFFINE), null)).toMatchObject({
      ok: false,
      refusal: { code: 'unreadable-file', message: expect.stringMatching(/\.$/) },
    });
});
