/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';

import type { FaultKind, KindOfFault } from '@/core/diagnosis';

import { KindsPanel } from './KindsPanel';

const kind = (of: FaultKind, probability: number): KindOfFault => ({
  kind: of,
  probability,
  evidence: `Evidence of ${of}.`,
  nextCheck: `Check ${of}.`,
});

test.each<[string, KindOfFault[], boolean, boolean]>([
  ['a misread that is likely', [kind('misread', 0.9), kind('calibration', 0.1)], true, true],
  ['the same, nothing is to be typed', [kind('misread', 0.9)], false, false],
  ['a misread that may be', [kind('misread', 0.7), kind('calibration', 0.3)], true, false],
  ['a calibration', [kind('calibration', 0.9)], true, false],
])('%s is said before anything is typed, or not', (_, kinds, typing, said) => {
  render(<KindsPanel kinds={kinds} typing={typing} />);
  expect(screen.queryByText(/Before you type/) !== null).toBe(said);
});

test('the likely ones are listed with evidence and next check, the others left out', () => {
  render(
    <KindsPanel kinds={[kind('slip', 0.995), kind('none', 0.02), kind('misread', 0.001)]} typing={false} />,
  );
  expect(screen.getByText('The media slipped, over 99 %')).toBeTruthy();
  expect(screen.getByText('Evidence of slip.')).toBeTruthy();
  expect(screen.getByText('Nothing is wrong, 2 %')).toBeTruthy();
  expect(screen.queryByText(/A mark was misread/)).toBeNull();
});
