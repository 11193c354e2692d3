/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { ownPageWasRun } from '@/features/forms/acts/actions';
import type { OwnPage } from '@/server/setups/ownPage';
import { OwnPageForm } from '@/features/forms/setup/OwnPageForm';

import { OwnPages } from './OwnPages';

jest.mock('@/features/forms/acts/actions', () => ({ ownPageWasRun: jest.fn(), ownPageTakenBack: jest.fn() }));
jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh: jest.fn() }) }));

const axis = (pick: string, from = '-5', to = '5') => ({ pick, from, to, middle: '' });
const run = (given: Partial<OwnPage> = {}): OwnPage => ({
  ...{ id: '1', medium: 'gloss film', coarse: 'row C', across: axis('-2'), along: axis('H', 'A', 'K') },
  ...{ answer: 'accepted', by: 'KT', at: new Date(Date.UTC(2026, 2, 4, 9)), ...given },
});

const of = (group: string, name: string) =>
  within(screen.getByRole('group', { name: group })).getByLabelText(name);

test('the form is kept as typed, remembers the page, and asks for another pass at the end of a range', async () => {
  jest.mocked(ownPageWasRun).mockResolvedValue({ ok: true, value: { atEnd: ['along'] } });
  const before = { across: axis('', '-5', '5'), along: axis('', 'A', 'K') };
  render(<OwnPageForm setupId="s" medium="gloss film" before={before} />);
  const user = userEvent.setup();
  await waitFor(() => expect(screen.getByRole('button', { name: 'Keep this run' })).toBeEnabled());
  await user.type(of('Across', 'Pick'), '−1,5');
  await user.type(of('Along the feed', 'Pick'), 'K');
  await user.click(screen.getByRole('button', { name: 'Keep this run' }));
  expect(await screen.findByText(/The pick along the feed is at the end of the range/)).toBeInTheDocument();
  expect(ownPageWasRun).toHaveBeenCalledWith(
    {
      ...{ setupId: 's', medium: 'gloss film', coarse: '', answer: '' },
      ...{ across: axis('−1,5'), along: axis('K', 'A', 'K') },
    },
    expect.anything(),
  );
  expect(of('Across', 'Pick')).toHaveValue('');
  expect(of('Along the feed', 'Last on the page')).toHaveValue('K');
});

test('what is refused is said at its field, and what was typed stays', async () => {
  jest.mocked(ownPageWasRun).mockResolvedValue({
    ...{ ok: false, said: 'refused', message: 'Some figures need another look.' },
    fields: { 'across.pick': 'The page has no such line.' },
  });
  render(<OwnPageForm setupId="s" medium="gloss film" before={null} />);
  const user = userEvent.setup();
  const field = of('Across', 'Pick');
  await waitFor(() => expect(screen.getByRole('button', { name: 'Keep this run' })).toBeEnabled());
  await user.type(field, 'two');
  await user.click(screen.getByRole('button', { name: 'Keep this run' }));
  await waitFor(() => expect(field).toHaveAccessibleDescription('The page has no such line.'));
  expect(field).toHaveValue('two');
});

test('runs are charted and listed, the newest first, with those at the end of the page marked', () => {
  const runs = [run(), run({ id: '2', across: axis('5'), at: new Date(Date.UTC(2026, 3, 4, 9)) })];
  render(<OwnPages setupId="s" medium="gloss film" runs={runs} />);
  expect(screen.getByRole('img', { name: /Both picks over time/ })).toBeInTheDocument();
  const [, first, second] = screen.getAllByRole('row');
  expect(within(first!).getByText('end of the range')).toBeInTheDocument();
  expect(within(first!).getByText('4 Apr 2026')).toBeInTheDocument();
  expect(within(second!).getByText('−2')).toBeInTheDocument();
  expect(within(second!).queryByText('end of the range')).not.toBeInTheDocument();
});
