import { proofSheet } from '@test/sheets';

import { crossOf, crossWay } from './cross';
import { otherPassReading } from './registry';

const { stations } = proofSheet({ secondSet: false });
const set = { stations, station: stations[0]!, taken: new Set<string>() };
const { kept } = crossWay;

test('both axes of a station, to half a graduation each way, in place of what was read of it before', () => {
  const told = kept.tell({ stationId: 'A1', across: 2.5, along: -4 }, set);
  expect(told).toMatchObject({
    ok: true,
    value: {
      instead: [crossOf('A1')],
      doubts: [],
      read: [
        { axis: 'across', offsetMm: 2.5, xMm: stations[0]!.centre.x },
        { axis: 'along', offsetMm: -4, yMm: stations[0]!.centre.y },
      ],
    },
  });
  if (!told.ok) return;
  // Half a millimetre rounded: 0.5/√12 (JCGM 100:2008 F.2.2.1).
  expect(told.value.read[0]!.uMm).toBeCloseTo(0.1443, 4);
  expect(otherPassReading(told.value.read[0]!).interval).toMatchObject({ loMm: 2.25, hiMm: 2.75 });
});

test.each([
  ['beyond the cross', { across: 6.5, along: 0 }],
  ['between graduations', { across: 0.3, along: 0 }],
  ['one axis alone', { across: 1 }],
  ['words', { across: 'far', along: 0 }],
])('%s is refused', (_, given) => {
  expect(kept.input.safeParse({ stationId: 'A1', ...given }).success).toBe(false);
});

test('at its very end it says that the cut may be further off; of no station there is none', () => {
  expect(kept.tell({ stationId: 'A1', across: -6, along: 0 }, set)).toMatchObject({
    value: { doubts: [{ code: 'end-of-cross', message: expect.stringMatching(/further off/) }] },
  });
  expect(kept.tell({ stationId: 'Z9', across: 0, along: 0 }, { ...set, station: null })).toMatchObject({
    refusal: { code: 'not-found' },
  });
});
