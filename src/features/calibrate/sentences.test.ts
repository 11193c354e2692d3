import { assessPass } from '@/core/calibration';
import { declaredEffect, type DeclaredEffect, type EffectDirection } from '@/core/correction';
import { TERM_NAMES, termTable, transformToField } from '@/core/fit';
import { seededRandom } from '@/core/random/random';
import { pickNearest } from '@/core/comb';
import { lookAtComb, termsAbout } from '@/core/rigsim';
import type { TermName, Terms } from '@/core/fit';
import type { LengthUnit, OffsetAxis } from '@/core/units';
import type { SetupSetting } from '@/server/setups/setup';
import { machineWordsSchema } from '@/server/setups/shapes';
import type { Changeable } from '@/core/setup';
import { A4_AREA, A4_CENTRE, proofSheet, TRUE_TERMS } from '@test/sheets';

import {
  correctAnswer,
  proveAnswer,
  registrationWords,
  restWords,
  shiftWords,
  stateWords,
  stretchWords,
  termWidth,
  typingNote,
  whereTermsGo,
} from './sentences';
import { tellsTerm, termText } from '@/ui/words/termWords';
import { passReading } from '@/core/readings';

function declared(direction: EffectDirection, more: Partial<DeclaredEffect> = {}) {
  const d: DeclaredEffect = {
    ...{ kind: 'offset', unit: 'mm', direction, anchor: { x: 0, y: 0 }, nominalMm: null },
    ...more,
  };
  return { ...d, effect: declaredEffect(d) };
}

const setting = (more: Partial<SetupSetting>): SetupSetting => ({
  id: 'x',
  name: 'Offset X',
  step: 0.05,
  value: 1.15,
  min: null,
  max: null,
  display: 'signed',
  directionKnown: true,
  wanted: 1.15,
  kept: 'one',
  on: 'cutter',
  words: machineWordsSchema.parse({}),
  ...declared('right'),
  ...more,
});

test.each<[Partial<SetupSetting>, number, number, string | null]>([
  [{}, 1.15, 0.85, null],
  [{}, 0.15, -0.2, 'It goes through zero: the new figure is minus 0.20.'],
  [{}, -0.1, 0.25, 'It goes through zero: the new figure is plus 0.25.'],
  [{ display: 'sign-and-size', step: 0.1 }, -0.2, -0.5, 'Keep minus; set the size to 0.5.'],
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

function said(
  terms: Partial<Terms>,
  stations = Infinity,
  changeable: Changeable = 'settings-and-file',
  misread = 0,
  directionKnown = true,
  axes: readonly OffsetAxis[] = ['across', 'along'],
) {
  const field = transformToField(termsAbout({ ...TRUE_TERMS, ...terms }, A4_CENTRE), A4_CENTRE);
  const readings = proofSheet({ secondSet: false })
    .stations.slice(0, stations)
    .flatMap((station) =>
      axes.map((axis) => {
        const seen = lookAtComb(station[axis], station.scaleCentre, field, seededRandom(1), 0);
        const rough = pickNearest(station[axis], seen.coarseMm);
        const line = seen.pick.line + (station.id === 'A1' && axis === 'across' ? misread : 0);
        return passReading(station, axis, { ...seen.pick, line, lengths: rough.lengths });
      }),
    );
  const settings = [
    setting({ directionKnown }),
    setting({ id: 'y', name: 'Offset Y', value: 4.7, directionKnown, ...declared('back') }),
  ];
  const a = assessPass(readings, settings, A4_AREA, 0.4)!;
  const rows = termTable(a.fit, A4_AREA, a.readingNoiseMm);
  const own =
    changeable === 'machine-page' || changeable === 'nothing' || changeable === 'file' ? [] : settings;
  const read = own.length === settings.length ? a : assessPass(readings, own, A4_AREA, 0.4)!;
  return {
    correct: correctAnswer(read, own, rows, 'mm', changeable),
    prove: proveAnswer(a, 0.4, 'mm'),
    plan: a.plan,
    rows,
  };
}

test('the answer says what is so and what to type', () => {
  expect(said({ shiftXMm: 0.31, shiftYMm: 0.12 }).correct).toMatch(
    /^The cut lands 0\.3\d mm right and 0\.1\d mm further along\. Type Offset X 0\.85 and Offset Y 4\.8\d?\.$/,
  );
  // What the figures do not reach is asked about, not told in the same breath.
  const { plan, rows, correct } = said({ shiftXMm: 0.31, scaleAlong: 1.0014 });
  expect(correct).not.toContain('scale');
  expect(restWords(rows, whereTermsGo(plan, true), 'mm')).toMatch(/^scale of 0\.1\d % long$/);
  const none = said({ shiftXMm: 0.31 });
  expect(restWords(none.rows, whereTermsGo(none.plan, true), 'mm')).toBe('rest');
  expect(said({}).correct).toMatch(/^Leave it alone\./);
});

test('the proof says the state first, and how much it speaks for', () => {
  expect(said({}).prove).toMatch(
    /^Plumb: 95 of 100 cuts stay within 0\.1\d mm, allowed 0\.40 mm\. Run it\.$/,
  );
  expect(said({ shiftXMm: 0.6 }).prove).toMatch(/^Out of plumb: .* Do not run it/);
  expect(said({}, 1).prove).toContain('at the place that was read');
});

test.each<[Changeable, RegExp]>([
  ['settings', /^The cut lands .* Type Offset X 0\.8\d\.$/],
  ['file', /with a scale of 0\.1\d % long\. Use the corrected cut file\.$/],
  ['machine-page', /Run the machine’s own calibration, then prove it here\.$/],
  ['nothing', /Nothing can be changed on this rig: 0\.\d\d mm of bleed hides it on 95 of 100 cuts\.$/],
])('a rig that can change %s is told what it can do, and nothing else', (changeable, words) => {
  const { correct } = said({ shiftXMm: 0.31, scaleAlong: 1.0014 }, Infinity, changeable);
  expect(correct).toMatch(words);
  if (changeable === 'settings') expect(correct).not.toContain('file');
  if (changeable !== 'settings') expect(correct).not.toContain('Type');
});

test('a misread comb is named before anything is typed', () => {
  const { correct } = said({ shiftXMm: 0.31 }, Infinity, 'settings-and-file', 5);
  expect(correct).toMatch(/^Look at A1 across again: it does not go with the other readings\.$/);
});

test('each term goes to one place: typed, in the file, or both for what only half fits the step', () => {
  const { plan } = said({ shiftXMm: 0.31, scaleAlong: 1.002 });
  // Two offsets can take the shift; only a file takes the scale.
  expect(whereTermsGo(plan, true)).toMatchObject({ shiftXMm: 'type it', scaleAlong: 'in the file' });
  expect(whereTermsGo(plan, false)).toMatchObject({ shiftXMm: 'type it', scaleAlong: 'leave it' });
  const half = {
    ...plan,
    settings: { ...plan.settings, leftOver: { ...plan.field, exMm: plan.field.exMm / 2 } },
  };
  expect(whereTermsGo({ ...plan, load: { ...plan.load, turnRad: 0.0005 } }, true).turnRad).toBe(
    'new each load',
  );
  expect(whereTermsGo(half, true).shiftXMm).toBe('type and file');
  expect(whereTermsGo(half, false).shiftXMm).toBe('type it');
});

test.each<[string, Partial<DeclaredEffect>, number, string | null]>([
  ['an offset stretches nothing', {}, 0.5, null],
  ['no change', { kind: 'scale', unit: 'percent', direction: 'longer' }, 0, null],
  ['longer', { kind: 'scale', unit: 'percent', direction: 'longer' }, 0.06, 'Makes the cut 0.060 % longer.'],
  [
    'one that counts down',
    { kind: 'scale', unit: 'percent', direction: 'shorter' },
    0.06,
    'Makes the cut 0.060 % shorter.',
  ],
  [
    'narrower',
    { kind: 'scale', unit: 'permille', direction: 'wider' },
    -1,
    'Makes the cut 0.100 % narrower.',
  ],
  [
    'a turn',
    { kind: 'turn', unit: 'degree', direction: 'clockwise' },
    0.05,
    'Turns the cut 0.05° clockwise.',
  ],
])('what a change of a setting does: %s', (_, effect, by, words) => {
  expect(stretchWords(setting(declared('right', effect)), 1, 1 + by)).toBe(words);
});

test.each([0, 1, 2, 3, 4])('what %i marks have taken out is said', (marks) => {
  const words = registrationWords(marks);
  expect(words.includes('shift')).toBe(marks > 0);
  // One mark leaves the turn, two leave a scale and the lean, more leave nothing of the load.
  expect(words.includes('lean')).toBe(marks > 2);
});

test.each<[TermName, number, LengthUnit, string]>([
  ['shiftXMm', 0.05, 'mm', '±0.05 mm'],
  ['shiftYMm', 0.0508, 'in', '±0.002 in'],
  ['scaleAlong', 0.0003, 'mm', '±0.03 %'],
  ['leanRad', 0.0005, 'mm', '±0.03°'],
])('the width of %s of %d in %s', (term, half, unit, words) =>
  expect(termWidth(term, half, unit)).toBe(words),
);

test('where nobody knows which way figures go the sentence tells none, it asks for a push', () => {
  const pushed = (changeable: Changeable) => said({ shiftXMm: 0.8 }, Infinity, changeable, 0, false).correct;
  for (const changeable of ['settings', 'settings-and-file'] as const)
    expect(pushed(changeable)).toMatch(
      /^The cut lands 0\.\d\d mm right.*\. Push Offset X and Offset Y once: which way they go is not known yet\.$/,
    );
  // Where only the file can be changed no figure is asked for anyway.
  expect(pushed('file')).toMatch(/Use the corrected cut file/);
});

test.each<[string, OffsetAxis, number, Changeable, boolean, RegExp]>([
  [
    'to type',
    'across',
    0.4,
    'settings',
    true,
    /^Read across only: .*right\. Type Offset X 0\.75, cut the next set, and read it across; then along the feed\.$/,
  ],
  [
    'the other way',
    'along',
    -0.3,
    'settings',
    true,
    /^Read along the feed only: .*back\. Type Offset Y 4\.40, .*; then across\.$/,
  ],
  [
    'nothing to correct',
    'across',
    0,
    'settings',
    true,
    /Leave it alone across, and read along the feed too\.$/,
  ],
  ['by file', 'across', 0.4, 'file', true, /Use the corrected cut file for the next set/],
  ['nothing to type', 'across', 0.4, 'nothing', true, /Nothing that can be typed moves it across alone/],
  [
    'nobody knows which way',
    'across',
    0.4,
    'settings',
    false,
    /Which way Offset X and Offset Y moves it is not known yet, and one axis cannot tell/,
  ],
])('one axis alone, %s', (_, axis, mm, changeable, known, words) => {
  const terms = axis === 'across' ? { shiftXMm: mm } : { shiftYMm: mm };
  const { correct, prove } = said(terms, 9, changeable, 0, known, [axis]);
  expect(correct).toMatch(words);
  expect(prove).toMatch(/only both say whether the rig is plumb\.$/);
  expect(stateWords({ state: null, axis })).toBe(axis === 'across' ? 'Across only' : 'Along the feed only');
});

test('one axis tells its own shift and scale, no turn and no lean', () => {
  expect(TERM_NAMES.filter((t) => tellsTerm('across', t))).toEqual(['shiftXMm', 'scaleAcross']);
  expect(TERM_NAMES.filter((t) => tellsTerm('along', t))).toEqual(['shiftYMm', 'scaleAlong']);
  expect(TERM_NAMES.filter((t) => tellsTerm(null, t))).toEqual(TERM_NAMES);
});
