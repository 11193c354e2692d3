/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { atPageEnd } from '@/core/setup';
import { ownPageWasRun } from '@/features/forms/acts/actions';
import type { OwnPage } from '@/server/setups/ownPage';
import { OwnPageForm } from '@/features/forms/setup/OwnPageForm';

import { OwnPages } from './OwnPages';

jest.mock('@/features/forms/acts/actions', () => ({ ownPageWasRun: jest.fn(), ownPageTakenBack: jest.fn() }));
jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh: jest.fn() }) }));

const run = (given: Partial<OwnPage> = {}): OwnPage => ({
  ...{ id: '1', medium: 'gloss film', coarse: 'row C', across: -2, along: 3, lowest: -5, highest: 5 },
  ...{ answer: 'accepted', by: 'KT', at: new Date(Date.UTC(2026, 2, 4, 9)), ...given },
});

test.each([
  [{ across: -2, along: 3 }, []],
  [{ across: -5, along: 3 }, ['across']],
  [{ across: 5, along: -5 }, ['across', 'along']],
])('picks %j on a page of −5 to 5 are at its end: %j', (picks, ends) => {
  expect(atPageEnd(run(picks))).toEqual(ends);
});

test('the form is kept with its figures, remembers the page, and asks for another pass at its end', async () => {
  jest.mocked(ownPageWasRun).mockResolvedValue({ ok: true, value: { atEnd: ['along'] } });
  render(<OwnPageForm setupId="s" medium="gloss film" before={{ lowest: -5, highest: 5 }} />);
  const user = userEvent.setup();
  await waitFor(() => expect(screen.getByRole('button', { name: 'Keep this run' })).toBeEnabled());
  await user.type(screen.getByLabelText('Pick across'), '−1,5');
  await user.type(screen.getByLabelText('Pick along the feed'), '5');
  await user.click(screen.getByRole('button', { name: 'Keep this run' }));
  expect(await screen.findByText(/The pick along the feed is the last on the page/)).toBeInTheDocument();
  expect(ownPageWasRun).toHaveBeenCalledWith(
    {
      setupId: 's',
      medium: 'gloss film',
      coarse: '',
      answer: '',
      across: -1.5,
      along: 5,
      lowest: -5,
      highest: 5,
    },
    expect.anything(),
  );
  expect(screen.getByLabelText('Pick across')).toHaveValue('');
  expect(screen.getByLabelText('Lowest number on the page')).toHaveValue('-5');
});

test('what is refused is said at its field, and what was typed stays', async () => {
  jest.mocked(ownPageWasRun).mockResolvedValue({
    ...{ ok: false, said: 'refused', message: 'Some figures need another look.' },
    fields: { across: 'The page has no such number.' },
  });
  render(<OwnPageForm setupId="s" medium="gloss film" before={null} />);
  const user = userEvent.setup();
  const field = screen.getByLabelText('Pick across');
  await waitFor(() => expect(screen.getByRole('button', { name: 'Keep this run' })).toBeEnabled());
  for (const name of ['Pick along the feed', 'Lowest number on the page', 'Highest number on the page'])
    await user.type(screen.getByLabelText(name), '3');
  await user.type(field, 'two');
  await user.click(screen.getByRole('button', { name: 'Keep this run' }));
  expect(field).toHaveAccessibleDescription(/Type the number as it stands on the page/);
  await user.clear(field);
  await user.type(field, '99');
  await user.click(screen.getByRole('button', { name: 'Keep this run' }));
  await waitFor(() => expect(field).toHaveAccessibleDescription('The page has no such number.'));
  expect(field).toHaveValue('99');
});

test('runs are charted and listed, the newest first, with those at the end of the page marked', () => {
  const runs = [run(), run({ id: '2', across: 5, at: new Date(Date.UTC(2026, 3, 4, 9)) })];
  render(<OwnPages setupId="s" medium="gloss film" runs={runs} />);
  expect(screen.getByRole('img', { name: /Both picks over time/ })).toBeInTheDocument();
  const [, first, second] = screen.getAllByRole('row');
  expect(within(first!).getByText('end of the page')).toBeInTheDocument();
  expect(within(first!).getByText('4 Apr 2026')).toBeInTheDocument();
  expect(within(second!).getByText('−2')).toBeInTheDocument();
  expect(within(second!).queryByText('end of the page')).not.toBeInTheDocument();
});
