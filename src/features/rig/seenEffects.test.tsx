/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';

import { SeenEffects, seenWords } from './SeenEffects';

const X = { id: 'x', name: 'Offset X' };
const told = (share: number, shareU: number, times = 3) => [{ settingId: 'x', share, shareU, times }];

test.each([
  ['never seen', [], 'Offset X: typed and read again on no sheet yet, so 5 % of doubt is assumed.'],
  ['once, as declared', told(1.012, 0.009, 1), 'Offset X: 101 % of what it says, ± 2 %, from 1 sheet.'],
  [
    'off, but no more than its doubt',
    told(0.93, 0.04),
    'Offset X: 93 % of what it says, ± 8 %, from 3 sheets.',
  ],
  [
    'declared the wrong way round',
    told(-0.92, 0.01, 1),
    'Offset X: it moved the cut the other way than it says, on 1 sheet. Turn its direction round above.',
  ],
  [
    'clearly off',
    told(0.9, 0.01),
    'Offset X: 90 % of what it says, ± 2 %, from 3 sheets. Look at its unit and its direction above, or at another setting that acts along with it.',
  ],
])('%s', (_, seen, words) => {
  expect(seenWords(X, seen)).toBe(words);
});

test('a line for every setting; nothing for a rig that takes no figures', () => {
  const { container, rerender } = render(
    <SeenEffects settings={[X, { id: 'y', name: 'Offset Y' }]} seen={told(1, 0.02)} />,
  );
  expect(screen.getAllByRole('listitem').map((li) => li.textContent)).toEqual([
    'Offset X: 100 % of what it says, ± 4 %, from 3 sheets.',
    'Offset Y: typed and read again on no sheet yet, so 5 % of doubt is assumed.',
  ]);
  rerender(<SeenEffects settings={[]} seen={[]} />);
  expect(container).toBeEmptyDOMElement();
});
