import fc from 'fast-check';

import { directionWord, fixed, offsetText, placesOfStep, signed } from './format';
import { fromMm, lengthRefusalText, parseLength, toMm } from './length';

test.each([
  ['12.5', 'mm', 12.5],
  ['12,5', 'mm', 12.5],
  ['\u22120.2', 'mm', -0.2],
  ['- 3', 'mm', -3],
  ['1/16', 'in', 1.5875],
  ['1 1/16', 'in', 26.9875],
  ['2-3/8"', 'mm', 60.325],
  ['.5 in', 'mm', 12.7],
  ['25.4mm', 'in', 25.4],
  ['8.5', 'in', 215.9], // letter paper is 8.5 × 11 in, 215.9 × 279.4 mm (ANSI/ASME Y14.1)
  ['11', 'in', 279.4],
] as const)('reads “%s” (%s by default) as %d mm', (typed, unit, wanted) => {
  const read = parseLength(typed, unit);
  expect(read.ok && read.value).toBeCloseTo(wanted, 10);
});

test.each([
  ['', 'empty'],
  ['abc', 'not-a-length'],
  ['1e308', 'not-a-length'],
  ['NaN', 'not-a-length'],
  ['1.2.3', 'not-a-length'],
  ['3 1.5', 'not-a-length'],
  ['1/0', 'zero-denominator'],
  ['1,250', 'ambiguous-comma'],
  ['5 kg', 'not-a-length'],
  ['3/8', 'unit-in-doubt'],
  ['-1 1/16', 'unit-in-doubt'],
  ['21cm', 'other-unit'],
  ['1.37 m', 'other-unit'],
] as const)('rejects “%s” as %s, and says what would be right', (typed, code) => {
  const read = parseLength(typed, 'mm');
  expect(read.ok ? 'read' : read.refusal.code).toBe(code);
  if (!read.ok) expect(lengthRefusalText(read.refusal, 'mm')).toMatch(/such as|example|point/);
});

test.each([
  ['3/8', 'mm', '“3/8” of an inch? Then type 3/8 in, for example; of a millimetre it is 0.375.'],
  ['21cm', 'mm', '“21cm” comes to 210 mm. Type that, for example.'],
  ['1,37 m', 'mm', '“1,37 m” comes to 1370 mm. Type that, for example.'],
  ['2 ft', 'in', '“2 ft” comes to 24 in. Type that, for example.'],
] as const)('a unit in doubt is asked about: %s', (typed, unit, words) => {
  const read = parseLength(typed, unit);
  expect(read.ok ? '' : lengthRefusalText(read.refusal, unit)).toBe(words);
});

test('inches and millimetres are inverses (1 in = 25.4 mm, NIST SP 811)', () => {
  fc.assert(
    fc.property(fc.double({ min: -1e4, max: 1e4, noNaN: true }), (value) => {
      expect(fromMm(toMm(value, 'in'), 'in')).toBeCloseTo(value, 9);
    }),
  );
});

test('figures never show “−0.00”, and say which way', () => {
  expect(fixed(-0.001, 2)).toBe('0.00');
  expect(fixed(-0.42, 2)).toBe('\u22120.42');
  expect(signed(0.3, 2)).toBe('+0.30');
  expect(offsetText(-0.42, 'across', 'mm')).toBe('0.42 mm left');
  expect(offsetText(0.254, 'along', 'in')).toBe('0.010 in further along');
  expect(offsetText(-0.001, 'along', 'mm')).toBe('0.00 mm');
  expect(directionWord(-1, 'along')).toBe('back');
});

test.each([
  [1, 0],
  [0.05, 2],
  [0.1, 1],
  [0.005, 3],
  [0.25, 2],
])('a step of %d needs %d places', (step, places) => expect(placesOfStep(step)).toBe(places));
