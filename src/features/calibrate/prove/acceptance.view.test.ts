import type { Acceptance } from '@/core/diagnosis';

import { acceptanceWords } from './acceptance.view';

const open = (stations: number | null, loads: number | null): Acceptance => ({
  ...{ says: 'open', outChance: 0.224, mayBeOffMm: 0.3 },
  wouldDecide: { stations, loads },
});
const NONE = { stations: null, loads: null };

test.each<[Acceptance, RegExp]>([
  [
    { says: 'proved', outChance: 0.004, mayBeOffMm: 0.3, wouldDecide: NONE },
    /^It passes: the chance that fewer than 95 of 100 cuts to come stay within 0\.40 mm all the same is under 1 %; up to 5 % is let pass\.$/,
  ],
  [
    { says: 'failed', outChance: 0.97, mayBeOffMm: 0.3, wouldDecide: NONE },
    /^It does not pass: .* is 97 %; .*Failing it is wrong with a chance of 3 %\.$/,
  ],
  [
    { says: 'failed', outChance: 1, mayBeOffMm: null, wouldDecide: NONE },
    /^It does not pass: loads alone differ so much/,
  ],
  [
    open(3, 1),
    /^Not decided: .* is 22 %; .*failing it with 78 %.*3 more stations on this sheet, or one more load like it would decide it/,
  ],
  [open(1, null), /One more station on this sheet would decide it, if it says the same\.$/],
  [open(null, 4), /4 more loads like it would decide it/],
  [open(null, null), /More readings of the same would not decide it/],
])('%j in words', (a, words) => {
  expect(acceptanceWords(a, 0.4, 'mm').join(' ')).toMatch(words);
});
