import type { FoundOut } from '@/server/sessions/signs';
import { plainSetting } from '@test/setups';

import { declareWords, foundOutWords } from './signs.view';

const setting = plainSetting({ name: 'X', unit: 'mm', step: 0.05, direction: 'right' });
const found = (more: Partial<FoundOut>, directionKnown: boolean): FoundOut => ({
  ...{ settingId: setting.id, times: 1, from: 0.1, to: 0.6, did: 'told', direction: 'left' },
  setting: { ...setting, directionKnown },
  ...more,
});

test('a push that told says which way it went, up or down', () => {
  expect(foundOutWords(found({}, false))).toBe('X from 0.10 to 0.60 mm moved the cut left.');
  expect(foundOutWords(found({ to: -0.4 }, false))).toBe('X from 0.10 to \u22120.40 mm moved the cut right.');
  expect(declareWords([found({}, false)])).toBe('Declare it so: +1 on X is left');
});

test.each(['unclear', 'nothing', 'other-unit'] as const)(
  'a push that told %s says nothing of where it should have gone: nobody knew',
  (did) => {
    const words = foundOutWords(found({ did, direction: null }, false));
    expect(words).not.toMatch(/should|right|left/);
    expect(words).toMatch(/cannot be told.*push it again/);
    // Of one that was declared it is said what it should have done.
    expect(foundOutWords(found({ did, direction: null }, true))).toMatch(/should move the cut right/);
  },
);
