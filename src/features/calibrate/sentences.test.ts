import { assessPass, passReading } from '@/core/calibration';
import { declaredEffect, type EffectDirection } from '@/core/correction';
import { termTable, transformToField } from '@/core/fit';
import { seededRandom } from '@/core/random/random';
import { pickNearest } from '@/core/readings';
import { lookAtComb, termsAbout } from '@/core/rigsim';
import type { Terms } from '@/core/fit';
import type { RigSetting } from '@/server/rigs';
import { A4_AREA, A4_CENTRE, proofSheet, TRUE_TERMS } from '@test/sheets';

import { correctAnswer, proveAnswer, shiftWords, termText, typingNote } from './sentences';

function declared(direction: EffectDirection) {
  const d = { kind: 'offset', unit: 'mm', direction, anchor: { x: 0, y: 0 }, nominalMm: null } as const;
  return { ...d, effect: declaredEffect(d) };
}

const setting = (more: Partial<RigSetting>): RigSetting => ({
  id: 'x',
  name: 'Offset X',
  step: 0.05,
  value: 1.15,
  min: null,
  max: null,
  display: 'signed',
  ...declared('right'),
  ...more,
});

test.each<[Partial<RigSetting>, number, number, string | null]>([
  [{}, 1.15, 0.85, null],
  [{}, 0.15, -0.2, 'It goes through zero: the new figure is minus 0.20.'],
  [{}, -0.1, 0.25, 'It goes through zero: the new figure is plus 0.25.'],
  [{ display: 'sign-and-size', step: 0.1 }, -0.2, -0.5, 'The sign stays minus; set the size to 0.5.'],
  [{ display: 'sign-and-size', step: 0.1 }, -0.2, 0.3, 'Set the sign to plus, then the size to 0.3.'],
  [{ display: 'sign-and-size', step: 0.1 }, 0, -0.3, 'Set the sign to minus, then the size to 0.3.'],
  [{ display: 'sign-and-size', step: 0.1 }, 0.4, 0, 'Set the size to 0; its sign does not matter.'],
])('typing note %#', (more, from, to, note) => {
  expect(typingNote(setting(more), from, to)).toBe(note);
});

test.each([
  [0.42, -0.18, '0.42 mm right and 0.18 mm back'],
  [-0.42, 0, '0.42 mm left'],
  [0, 0.1, '0.10 mm further along'],
  [0.001, -0.002, 'on the print'],
])('a cut at (%d, %d) is told as %s', (x, y, words) => expect(shiftWords(x, y, 'mm')).toBe(words));

test('terms carry a word for their sign', () => {
  expect(termText('scaleAlong', 0.0014, 'mm')).toBe('0.14 % long');
  expect(termText('turnRad', -0.001, 'mm')).toBe('0.06° clockwise');
  expect(termText('leanRad', 0.001, 'mm')).toBe('0.06° to the right');
  expect(termText('shiftXMm', -0.254, 'in')).toBe('0.010 in left');
});

function said(terms: Partial<Terms>, stations = Infinity) {
  const field = transformToField(termsAbout({ ...TRUE_TERMS, ...terms }, A4_CENTRE), A4_CENTRE);
  const readings = proofSheet({ secondSet: false })
    .stations.slice(0, stations)
    .flatMap((station) =>
      (['across', 'along'] as const).map((axis) => {
        const seen = lookAtComb(station[axis], station.scaleCentre, field, seededRandom(1), 0);
        const rough = pickNearest(station[axis], seen.coarseMm);
        return passReading(station, axis, { ...seen.pick, lengths: rough.lengths });
      }),
    );
  const settings = [setting({}), setting({ id: 'y', name: 'Offset Y', value: 4.7, ...declared('back') })];
  const a = assessPass(readings, settings, A4_AREA, 0.4)!;
  const rows = termTable(a.fit, A4_AREA, a.readingNoiseMm);
  return { correct: correctAnswer(a, settings, rows, 'mm'), prove: proveAnswer(a, 0.4, 'mm') };
}

test('the answer says what is so and what to type', () => {
  expect(said({ shiftXMm: 0.31, shiftYMm: 0.12 }).correct).toMatch(
    /^The cut lands 0\.3\d mm right and 0\.1\d mm further along\. Type Offset X 0\.85 and Offset Y 4\.8\d?; then 95 of 100 cuts stay within 0\.1\d mm\.$/,
  );
  expect(said({ shiftXMm: 0.31, scaleAlong: 1.0014 }).correct).toMatch(
    /with a scale of 0\.1\d % long\. Type .* put the rest in the file/,
  );
  expect(said({}).correct).toMatch(/^Leave it alone\./);
});

test('the proof says the state first, and how much it speaks for', () => {
  expect(said({}).prove).toMatch(
    /^Plumb: 95 of 100 cuts stay within 0\.1\d mm, allowed 0\.40 mm\. Run it\.$/,
  );
  expect(said({ shiftXMm: 0.6 }).prove).toMatch(/^Out of plumb: .* Do not run it/);
  expect(said({}, 1).prove).toContain('at the place that was read');
});
