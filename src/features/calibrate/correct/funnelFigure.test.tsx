/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';

import { FunnelFigure } from './FunnelFigure';

test.each([
  ['mm', /left alone they land 0\.\d\d mm off on average, typed back each time 0\.\d\d mm/],
  ['in', /left alone they land 0\.0\d\d in off on average/],
] as const)('the funnel is told in %s, with as many dots as loads on each strip', (unit, words) => {
  const { container } = render(<FunnelFigure loadSdMm={0.2} readingSdMm={0.1} unit={unit} />);
  expect(screen.getByRole('img', { name: words })).toBeInTheDocument();
  expect(container.querySelectorAll('circle')).toHaveLength(120);
  const [left, chased] = [...container.querySelectorAll('text.mono')].map((t) => t.textContent);
  expect(left).not.toBe(chased);
});

test('a rig without scatter draws, with nothing off', () => {
  render(<FunnelFigure loadSdMm={0} readingSdMm={0} unit="mm" />);
  expect(screen.getByRole('img', { name: /left alone they land 0\.00 mm/ })).toBeInTheDocument();
});
