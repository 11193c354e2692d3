/** @jest-environment jsdom */
import '@test/dom';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';

import type { StripStation } from '@/core/layout';
import { proofSheet } from '@test/sheets';

import { keepWitness } from '../actions';
import { StripDesk } from './StripDesk';

jest.mock('../actions', () => ({ keepWitness: jest.fn() }));

const [FIRST] = proofSheet({ columns: 1, rows: 1, secondSet: false }).stations;
const STATION: StripStation = { ...FIRST!, place: 'last row' };
const key = (k: string) => fireEvent.keyDown(document.body, { key: k });
async function show() {
  render(<StripDesk runId="r" section={3} station={STATION} replaces={['c']} unit="mm" />);
  await waitFor(() => expect(screen.getByRole('button', { name: /^Keep/ })).toBeEnabled());
}
const kept = (more: object) =>
  expect(keepWitness).toHaveBeenCalledWith(
    { runId: 'r', section: 3, place: 'last row', replaces: ['c'], ...more },
    expect.anything(),
  );

beforeEach(() => {
  jest.mocked(keepWitness).mockReset().mockResolvedValue({ ok: true, value: null });
});

test('across, then along, by keys; both are kept together as the check of the row', async () => {
  await show();
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent(/Section 3, last row, across/);
  key('ArrowRight');
  key('Enter');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent(/along the feed/);
  key('ArrowDown');
  key('b');
  key('Enter');
  await waitFor(() => expect(keepWitness).toHaveBeenCalledTimes(1));
  kept({
    across: { line: 1, between: false, coarseMm: null },
    along: { line: -1, between: true, coarseMm: null },
  });
});

test('the cross is read first where the cut is further off; across alone can be kept, or read again', async () => {
  await show();
  key('c');
  key('ArrowRight');
  key('Enter');
  key('Enter');
  fireEvent.click(screen.getByRole('button', { name: 'Read it again' }));
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent(/across/);
  key('ArrowLeft');
  key('Enter');
  fireEvent.click(screen.getByRole('button', { name: 'Keep across alone' }));
  await waitFor(() => expect(keepWitness).toHaveBeenCalledTimes(1));
  kept({ across: { line: -1, between: false, coarseMm: null }, along: null });
});

test('what is refused is said, and what was read stays', async () => {
  jest.mocked(keepWitness).mockResolvedValue({
    ...{ ok: false, said: 'refused', message: 'Section 3 is not cut yet.', fields: {} },
  });
  await show();
  key('Enter');
  key('Enter');
  expect(await screen.findByRole('alert')).toHaveTextContent('Section 3 is not cut yet.');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent(/along the feed/);
});
