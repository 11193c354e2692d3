import { backlashWords } from './BacklashNote';

const told = (mm: number, real: boolean) => ({ mm, se: 0.01, half95Mm: 0.02, real });

test.each([
  [{ across: null, along: null }, null],
  [{ across: told(0.005, false), along: null }, 'Backlash across: none to be seen, less than 0.03 mm.'],
  [
    { across: told(0.12, true), along: null },
    'across: what is cut coming from the right lands 0.12 mm ± 0.02 mm right of what is cut coming from the left',
  ],
  [
    { across: null, along: told(-0.2, true) },
    'along: what is cut coming from the far side lands 0.20 mm ± 0.02 mm further back of what is cut coming from the near side',
  ],
  [{ across: told(0.12, true), along: told(-0.2, true) }, 'half of it, 0.10 mm, adds to every miss'],
])('%j in words', (backlash, words) => {
  const said = backlashWords(backlash, 'mm');
  if (words === null) expect(said).toBeNull();
  else expect(said!.words).toContain(words);
});
