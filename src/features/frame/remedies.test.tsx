/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { remediesInOrder, type Tried } from '@/core/diagnosis';

import { forgetTried, keepTried, lookUpRemedies } from './actions';
import { Remedies } from './Remedies';

jest.mock('./actions', () => ({ forgetTried: jest.fn(), keepTried: jest.fn(), lookUpRemedies: jest.fn() }));
const path = jest.fn(() => '/');
jest.mock('next/navigation', () => ({ usePathname: () => path() }));

const SETUP = '3f0c1a52-5d62-4a55-9f7e-0d7a7a0c1b11';
const worked = (remedy: Tried['remedy'], times: number): Tried[] =>
  Array.from({ length: times }, () => ({ remedy, worked: true, where: 'here' }));
const answer = (setupId: string | null, record: readonly Tried[] = []) => ({
  ok: true as const,
  value: { setupId, setups: [{ id: SETUP, words: 'Roll rig, gloss vinyl' }], order: remediesInOrder(record) },
});
const user = userEvent.setup();
const first = () => within(screen.getAllByRole('listitem')[0]!);
async function press(name: string): Promise<void> {
  const button = await screen.findByRole('button', { name });
  await waitFor(() => expect(button).toBeEnabled());
  await user.click(button);
}

beforeEach(() => {
  path.mockReturnValue('/');
  jest.mocked(lookUpRemedies).mockReset().mockResolvedValue(answer(null));
  jest
    .mocked(keepTried)
    .mockReset()
    .mockResolvedValue({ ok: true, value: { triedId: 't1' } });
  jest.mocked(forgetTried).mockReset().mockResolvedValue({ ok: true, value: null });
});

test('on a setup’s own page it is asked for that setup, and what helped there stands first', async () => {
  path.mockReturnValue(`/setups/${SETUP}`);
  jest.mocked(lookUpRemedies).mockResolvedValue(answer(SETUP, worked('smooth', 6)));
  render(<Remedies />);
  expect(await screen.findByText(/helped 6 of 6 times in this shop/)).toBeInTheDocument();
  expect(first().getByText('Smooth the media.')).toBeInTheDocument();
  expect(lookUpRemedies).toHaveBeenCalledWith({ setupId: SETUP });
});

test('without an answer the usual order stands: help does not wait for the server', async () => {
  jest.mocked(lookUpRemedies).mockRejectedValue(new Error('away'));
  render(<Remedies />);
  expect(screen.getAllByRole('listitem').length).toBeGreaterThan(12);
  await Promise.resolve();
  expect(first().getByText(/Start just inside the first mark/)).toBeInTheDocument();
});

test('where nobody said which rig it is, nothing is kept', async () => {
  render(<Remedies />);
  await press('Less light: it helped');
  expect(await screen.findByText('Say first which rig and medium it is.')).toBeInTheDocument();
  expect(keepTried).not.toHaveBeenCalled();
});

test('one tap keeps it, another takes it back; a refusal is said', async () => {
  render(<Remedies />);
  await user.selectOptions(
    await screen.findByLabelText('On'),
    await screen.findByText('Roll rig, gloss vinyl'),
  );
  await press('Less light: it did not help');
  expect(await screen.findByText(/Less light: kept\. Try the next\./)).toBeInTheDocument();
  expect(keepTried).toHaveBeenCalledWith(
    { setupId: SETUP, remedy: 'less-light', worked: false },
    expect.objectContaining({ request: expect.any(String) }),
  );
  await press('Take it back');
  expect(await screen.findByText('Taken back.')).toBeInTheDocument();
  expect(forgetTried).toHaveBeenCalledWith('t1', expect.anything());
  jest
    .mocked(keepTried)
    .mockResolvedValue({ ok: false, said: 'stale', message: 'This setup is gone.', fields: {} });
  await press('Less light: it helped');
  expect(await screen.findByText('This setup is gone.')).toBeInTheDocument();
  expect(screen.queryByRole('button', { name: 'Take it back' })).not.toBeInTheDocument();
});
