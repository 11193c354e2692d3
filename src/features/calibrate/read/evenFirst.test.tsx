/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { EVEN_WITHIN_MM } from '@/core/readings/even';
import { coarseFirstWords } from '../CoarseFirst';
import { keepOther } from '../actions';
import { EvenFirst } from './EvenFirst';

jest.mock('../actions', () => ({ keepOther: jest.fn() }));

const user = userEvent.setup();
const press = async (name: RegExp): Promise<void> => {
  const button = screen.getByRole('button', { name });
  await waitFor(() => expect(button).toBeEnabled());
  await user.click(button);
};

test('yes is kept for this set; no lets the combs be read', async () => {
  jest.mocked(keepOther).mockResolvedValue({ ok: true, value: { changes: 1, kept: 9, doubts: [] } });
  render(<EvenFirst passId="p" stations={9} withinMm={EVEN_WITHIN_MM} unit="mm" />);
  expect(screen.getByText(/Weed the 9 discs/)).toBeInTheDocument();
  expect(screen.getByText(/off by over 0.15 mm/)).toBeInTheDocument();
  await press(/Even all round/);
  await waitFor(() =>
    expect(keepOther).toHaveBeenCalledWith({ way: 'even', passId: 'p' }, expect.anything()),
  );
  await press(/^Read the combs/);
  expect(screen.queryByText(/A quick look first/)).toBeNull();
});

test('one disc is one disc; what went wrong is said', async () => {
  jest
    .mocked(keepOther)
    .mockResolvedValue({ ok: false, said: 'refused', message: 'This set is closed.', fields: {} });
  render(<EvenFirst passId="p" stations={1} withinMm={EVEN_WITHIN_MM} unit="in" />);
  expect(screen.getByText(/Weed the disc. Is its ring even/)).toBeInTheDocument();
  await press(/Even all round/);
  expect(await screen.findByText('This set is closed.')).toBeInTheDocument();
});

test.each([
  [[], 'read', null],
  [
    [{ stationId: 'A1', axis: 'across', way: 'cross' }],
    'read',
    /^A1 across: .*ends at 6.*Coarse first: measure the gaps/,
  ],
  [
    [{ stationId: 'R-A2', axis: 'along', way: 'rings' }],
    'read',
    /the row of rings ends there.*read the comb there/,
  ],
  [
    [{ stationId: 'A1', axis: 'across', way: 'cross' }],
    'correct',
    /Take this as the coarse pass.*Only then is anything promised/,
  ],
] as const)('%j at %s: coarse first, then fine', (ends, at, words) => {
  const said = coarseFirstWords(ends, at, 'mm');
  if (words === null) expect(said).toBeNull();
  else expect(said).toMatch(words);
});
