import reference from '@test/reference/fits.json';

import { fitForScript, fitRequestSchema } from './scriptFit';

const close = (actual: number, wanted: number, relative: number): void =>
  expect(Math.abs(actual - wanted)).toBeLessThanOrEqual(relative * Math.abs(wanted));

const MODELS = ['shift', 'rigid', 'similarity', 'affine', 'projective', 'roll'] as const;

// Source: test/reference/fits.py, a second implementation in 60-digit arithmetic (mpmath).
test.each(
  reference.flatMap((c, i) =>
    MODELS.map((model) => ({ at: c.name, model, case: c, relative: [1e-9, 1e-6][i]! })),
  ),
)('$model $at agrees with a 60-digit fit within $relative', ({ model, case: c, relative }) => {
  const answer = fitForScript(fitRequestSchema.parse({ stations: c.stations, models: [model] })).models[
    model
  ]!;
  if (answer.status !== 'ok') throw new Error(answer.message);
  const wanted = c.models[model];
  for (const [name, value] of Object.entries(wanted.params)) close(answer.params[name]!, value, relative);
  for (const [name, value] of Object.entries(wanted.se)) close(answer.seKnownU[name]!, value, relative);
  close(answer.chi2, wanted.chi2, relative);
  answer.stations.forEach((s, i) => {
    close(s.leverageDx!, wanted.leverage[2 * i]!, 1e-6);
    close(s.leverageDy!, wanted.leverage[2 * i + 1]!, 1e-6);
    close(s.rstudentDx!, wanted.rstudent[2 * i]!, 1e-6);
    close(s.rstudentDy!, wanted.rstudent[2 * i + 1]!, 1e-6);
  });
});

const station = { id: 'a', x: 10, y: 20, dx: 0.1, dy: 0.2, u: 0.03 };

test.each([
  ['nothing', undefined, /expected object|required|Invalid/i],
  ['no stations', { stations: [] }, /empty/],
  ['text for a number', { stations: [{ ...station, x: '10' }] }, /number/],
  ['an endless offset', { stations: [{ ...station, dx: 1e308 }] }, /At most/],
  ['no u', { stations: [{ ...station, u: undefined }] }, /Station a has no uncertainty/],
  ['u of zero', { stations: [{ ...station, u: 0 }] }, /Station a has no uncertainty/],
  ['a negative u', { stations: [{ ...station, u: -1 }] }, /Station a has no uncertainty/],
  ['one id twice', { stations: [station, station] }, /Station a occurs twice/],
  ['an unknown model', { stations: [station], models: ['cubic'] }, /one of shift, rigid/],
  ['an area inside out', { stations: [station], workArea: { x0: 9, y0: 0, x1: 1, y1: 5 } }, /x1 above x0/],
])('refuses %s with a sentence', (_, body, message) => {
  const parsed = fitRequestSchema.safeParse(body);
  expect(parsed.success ? '' : parsed.error.issues[0]!.message).toMatch(message);
});

test('one station gives a shift, and says of every other model what is missing', () => {
  const answer = fitForScript(fitRequestSchema.parse({ stations: [station] }));
  expect(answer.recommended).toBe('shift');
  expect(answer.models.affine).toMatchObject({ status: 'refused', reason: 'too-few-readings' });
  expect(JSON.stringify(answer)).not.toMatch(/NaN|Infinity/);
});
