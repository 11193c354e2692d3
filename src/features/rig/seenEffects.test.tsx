/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';

import { SeenEffects, seenWords } from './SeenEffects';

const X = { id: 'x', name: 'Offset X' };
const told = (share: number, shareU: number, times = 3) => [{ settingId: 'x', share, shareU, times }];

test.each([
  ['never seen', [], 'Offset X: not seen on a sheet yet, so 5 % of doubt is assumed.'],
  [
    'once, as declared',
    told(1.012, 0.009, 1),
    'Typing 1.00 into Offset X does 1.01 (± 0.02), seen on 1 sheet.',
  ],
  [
    'off, but no more than its doubt',
    told(0.93, 0.04),
    'Typing 1.00 into Offset X does 0.93 (± 0.08), seen on 3 sheets.',
  ],
  [
    'declared the wrong way round',
    told(-0.92, 0.01, 1),
    'Offset X: it moved the cut the other way than it says, on 1 sheet. Turn its direction round above.',
  ],
  [
    'clearly off',
    told(0.9, 0.01),
    'Typing 1.00 into Offset X does 0.90 (± 0.02), seen on 3 sheets. Look at its unit and its direction above, or at another setting that acts along with it.',
  ],
])('%s', (_, seen, words) => {
  expect(seenWords(X, seen)).toBe(words);
});

test('a line for every setting; nothing for a rig that takes no figures', () => {
  const { container, rerender } = render(
    <SeenEffects settings={[X, { id: 'y', name: 'Offset Y' }]} seen={told(1, 0.02)} />,
  );
  expect(screen.getAllByRole('listitem').map((li) => li.textContent)).toEqual([
    'Typing 1.00 into Offset X does 1.00 (± 0.04), seen on 3 sheets.',
    'Offset Y: not seen on a sheet yet, so 5 % of doubt is assumed.',
  ]);
  rerender(<SeenEffects settings={[]} seen={[]} />);
  expect(container).toBeEmptyDOMElement();
});
