/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { BleedPanel, hiddenWords } from './BleedPanel';

// σ 0.1 mm each way: radius² = −2σ² ln(1 − share) (Rayleigh, closed form).
const CURVE = [0.1, 0.5, 0.9, 0.99, 0.999, 0.99999].map((share) => ({
  share,
  mm: Math.sqrt(-2 * 0.01 * Math.log(1 - share)),
}));

test.each([
  ['mm', '0.2448', /hides 950 of 1000 cuts; 50 would show/],
  ['mm', '0,1', /hides 39 of 100 cuts; 61 would show/],
  ['in', '0.02', /all but one in ten thousand/],
  ['mm', 'some', /“some”|number/i],
] as const)('in %s a job with “%s”', async (unit, typed, words) => {
  render(<BleedPanel curve={CURVE} title="Bleed" unit={unit} />);
  expect(screen.getByText('95 of 100 cuts').nextSibling).toHaveTextContent(
    unit === 'mm' ? '0.24 mm' : '0.010 in',
  );
  await userEvent.setup().type(screen.getByLabelText(`The job has, ${unit}`), typed);
  expect(screen.getByText(words)).toBeInTheDocument();
});

test.each([
  [0, 'At the worst place it hides 0 of 100 cuts; 100 would show.'],
  [0.9955, 'At the worst place it hides 9955 of 10000 cuts; 45 would show.'],
  [null, 'It hides all but one in ten thousand cuts, or more.'],
])('a share of %p', (share, words) => expect(hiddenWords(share)).toBe(words));
