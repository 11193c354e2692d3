import type { WatchedAxis } from '@/core/control';

import { signalsOf, watchWords } from './watchWords';

const chart = { centre: 0, sigma: 0.02, lower: [0], upper: [0.2], signals: [], statistic: [0] };
const axis = (name: WatchedAxis['axis'], since: Date | null, byMm = 0): WatchedAxis => ({
  axis: name,
  watch: { loads: [], chart, since, byMm },
});
const MAY = new Date(Date.UTC(2026, 4, 3, 9));

test.each([
  [
    [
      { axis: 'across', watch: null },
      { axis: 'along', watch: null },
    ],
    /^Too few loads/,
  ],
  [[axis('across', null), axis('along', null)], /^Its loads land where they should\.$/],
  [
    [axis('across', MAY, -0.1234), axis('along', null)],
    /^Since 3 May 2026 its loads have landed 0\.12 mm left on average\. Calibrate this medium\.$/,
  ],
  [
    [axis('across', MAY, 0.05), axis('along', MAY, 0.31)],
    /^Since 3 May 2026 .* 0\.05 mm right .* Since 3 May 2026 .* 0\.31 mm further along/,
  ],
] as const)('%j is said in a sentence', (axes, words) => {
  expect(watchWords(axes, 'mm')).toMatch(words);
});

test('inches where inches are read', () => {
  expect(signalsOf([axis('along', MAY, -0.254)], 'in')[0]!.by).toBe('0.010 in back');
});
