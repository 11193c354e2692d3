import fc from 'fast-check';

import { plausible, type FigureKind, type Usual } from './plausible';

const USUAL: Usual = { allowedMm: 0.5, everMm: 0.2 };
const NEW: Usual = { allowedMm: 0.5, everMm: null };

test.each<[string, FigureKind, number, Usual, number[]]>([
  ['a point one place to the right', 'offset', 12, USUAL, [1.2, 0.12]],
  ['the same to the left', 'offset', -3.1, USUAL, [-0.31, -0.031]],
  ['an untouched rig far off', 'offset', 40, NEW, [4, 0.4]],
  ['a set farther off than twice all that is on record', 'set', 1.1, USUAL, [0.11, 0.011]],
  ['a bar read in inches where millimetres are meant', 'known length', 3.94, { nominalMm: 100 }, [100.076]],
  ['a bar in centimetres', 'known length', 10.01, { nominalMm: 100 }, [100.1]],
  ['a length of something else', 'known length', 61, { nominalMm: 100 }, []],
  ['an allowed miss that nobody would miss', 'allowed miss', 50, {}, [5, 0.5]],
  ['one that nobody can see', 'allowed miss', 0.01, {}, [0.1, 1]],
  ['a feed as a change', 'feed', -0.15, {}, [99.85]],
  ['a feed a place off', 'feed', 1001, {}, [100.1]],
])('%s is asked about, and what may have been meant is said', (_, kind, value, usual, meant) => {
  const judged = plausible(kind, value, usual, 'mm');
  expect(judged.say).toBe('ask');
  if (judged.say !== 'ask') return;
  expect(judged.why).toMatch(/\.$/);
  expect(judged.meant).toEqual(meant.map((v) => expect.closeTo(v, 6)));
});

test.each<[FigureKind, number, Usual]>([
  ['offset', 0, USUAL],
  ['offset', -2.4, USUAL],
  // Rigs as they come are off by millimetres.
  ['offset', 4.9, NEW],
  ['offset', 2.9, { allowedMm: 0.1, everMm: 1 }],
  ['set', 0.9, USUAL],
  ['set', 4.9, NEW],
  ['known length', 99.2, { nominalMm: 100 }],
  ['known length', 99.2, {}],
  ['allowed miss', 0.5, {}],
  ['feed', 99.85, {}],
])('%s of %d may well be meant', (kind, value, usual) => {
  expect(plausible(kind, value, usual, 'mm')).toEqual({ say: 'fine' });
});

test('how far off it is goes by what is allowed and by what is on record, in the user’s unit', () => {
  const judged = plausible('offset', 12, USUAL, 'in');
  expect(judged).toMatchObject({
    why: '0.472 in is 24 times what is allowed here and 60 times what is on record here.',
  });
});

test('property: what is proposed is never asked about again, and a smaller offset never more than a larger', () => {
  const usual = fc.record({
    allowedMm: fc.double({ min: 0.05, max: 3, noNaN: true }),
    everMm: fc.oneof(fc.constant(null), fc.double({ min: 0, max: 5, noNaN: true })),
  });
  fc.assert(
    fc.property(usual, fc.double({ min: -500, max: 500, noNaN: true }), (given, value) => {
      const judged = plausible('offset', value, given, 'mm');
      if (judged.say === 'ask')
        for (const meant of judged.meant) expect(plausible('offset', meant, given, 'mm').say).toBe('fine');
      if (judged.say === 'fine') expect(plausible('offset', value / 2, given, 'mm').say).toBe('fine');
    }),
  );
});
