import type { FoundTerms } from '@/server/setups/termsOverTime';
import { normalDeviate, seededRandom } from '@/core/random/random';
import { plainSetting, plainSetup } from '@test/setups';

import { watched, watchWords } from './watch.view';

const DAY = 86_400_000;
const setting = plainSetting();
const setup = plainSetup({ settings: [setting] });

/** A load a week: the rig's own shift across, less what is typed by then and what the file undoes. */
function found(own: (i: number) => number, typedAt: number, count = 20): FoundTerms[] {
  const random = seededRandom(4);
  return Array.from({ length: count }, (_, i) => {
    const value = i < typedAt ? 0 : 1;
    return {
      setupId: setup.id,
      at: new Date(7 * i * DAY),
      terms: {
        ...{ turnRad: 0, scaleAcross: 1, scaleAlong: 1, leanRad: 0, shiftYMm: 0.02 * normalDeviate(random) },
        shiftXMm: own(i) + value * setting.effect.exMm - 0.4 + 0.02 * normalDeviate(random),
      },
      ...{ shiftOnly: false, typedBefore: i === typedAt, shown: { [setting.id]: value } },
      fileMm: { x: 0.4, y: 0 },
      workArea: setup.workArea,
    };
  });
}

test('what was typed and what the file undid are taken out: a correction is no signal', () => {
  const axes = watched(
    found(() => 0.7, 12),
    setup,
    [],
  );
  expect(axes.map((a) => a.watch?.since)).toEqual([null, null]);
  expect(axes[0]!.watch!.chart.centre).toBeCloseTo(0.7, 1);
  expect(watchWords(axes, 'mm')).toBe('Its loads land as they usually do.');
});

test('a creep is said with its direction, since when and by how much; an event noted meanwhile starts anew', () => {
  const creeping = found((i) => -0.05 * Math.max(0, i - 10), 99);
  const axes = watched(creeping, setup, []);
  expect(watchWords(axes, 'mm')).toMatch(
    /^Its shift across has left what is usual since \d+ \w+ 1970: on average 0\.\d\d mm left of it\. Check this medium\.$/,
  );
  const noted = watched(creeping, setup, [{ at: new Date(7 * 18 * DAY + 1) }]);
  expect(watchWords(noted, 'mm')).toMatch(/^Too few loads/);
});

test('other setups’ loads are not looked at', () => {
  const others = found(() => 0, 0).map((f) => ({ ...f, setupId: 'another' }));
  expect(watched(others, setup, []).map((a) => a.watch)).toEqual([null, null]);
});
