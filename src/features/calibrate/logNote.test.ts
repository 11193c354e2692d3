import type { Assessment } from '@/core/calibration';

import { logWords } from './LogNote';

const assessed = (fromLog: Partial<NonNullable<Assessment['fromLog']>> | null): Assessment =>
  ({
    estimate: { field: { exMm: 0.35, eyMm: -0.12 } },
    fromLog: fromLog && { sinceEvent: 6, moved: 0.02, ...fromLog },
  }) as unknown as Assessment;

test('nothing is said while the log holds too little', () => {
  expect(logWords(assessed(null), 'mm')).toBeNull();
});

test('what this sheet alone says stands beside what is corrected, with how many loads say so', () => {
  const { words, moved } = logWords(assessed({}), 'mm')!;
  expect(moved).toBe(false);
  expect(words).toMatch(/^This sheet alone says 0\.35 mm right and 0\.12 mm back\. 6 loads on record/);
});

test('a rig that seems to have moved is said to, in the user’s unit, and what to do', () => {
  const { words, moved } = logWords(assessed({ moved: 0.97 }), 'in')!;
  expect(moved).toBe(true);
  expect(words).toMatch(
    /0\.014 in right and 0\.005 in back, and that does not go with the 6 loads on record/,
  );
  expect(words).toMatch(/Note what happened on the rig’s page/);
});
