/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';

import type { FaultKind, KindOfFault } from '@/core/diagnosis';

import { KindsNotice, KindsPanel } from './KindsPanel';

const kind = (of: FaultKind, probability: number): KindOfFault => ({
  kind: of,
  probability,
  evidence: `Evidence of ${of}.`,
  nextCheck: `Check ${of}.`,
});

test.each<[string, KindOfFault[], boolean]>([
  ['a misread that is likely', [kind('misread', 0.9), kind('calibration', 0.1)], true],
  ['a misread that may be', [kind('misread', 0.7), kind('calibration', 0.3)], false],
  ['a calibration', [kind('calibration', 0.95)], false],
  ['nothing wrong', [kind('none', 0.95)], false],
])('%s is said before anything is typed, or not', (_, kinds, said) => {
  render(<KindsNotice kinds={kinds} />);
  expect(screen.queryByText(/Before you type/) !== null).toBe(said);
});

test('the likely ones are listed with evidence and next check, the others left out', () => {
  render(<KindsPanel kinds={[kind('slip', 0.995), kind('none', 0.02), kind('misread', 0.001)]} />);
  expect(screen.getByText('The media slipped, over 99 %')).toBeTruthy();
  expect(screen.getByText('Evidence of slip.')).toBeTruthy();
  expect(screen.getByText('Nothing is wrong, 2 %')).toBeTruthy();
  expect(screen.queryByText(/A mark was misread/)).toBeNull();
});
