/** @jest-environment jsdom */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import '@test/dom';

import { changedOver } from '@/features/forms/acts/actions';
import { ChangeOverCard } from './ChangeOverCard';
import type { ChangeRow } from './setup.view';

jest.mock('@/features/forms/acts/actions', () => ({ changedOver: jest.fn() }));
const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push, refresh: jest.fn() }) }));

const ROWS: ChangeRow[] = [
  {
    id: 'x',
    name: 'Offset X',
    unit: 'mm',
    deed: 'type',
    from: '−0.05',
    to: '0.20',
    wanted: 0.2,
    crossesZero: true,
    machine: 'wide cutter',
    how: ['Keys: menu, 4.'],
  },
  {
    id: 'y',
    name: 'Offset Y',
    unit: 'mm',
    deed: 'leave',
    from: '1.10',
    to: '1.10',
    wanted: 1.1,
    crossesZero: false,
    machine: 'wide cutter',
    how: [],
  },
];
const sent = () => jest.mocked(changedOver).mock.lastCall?.[0];
const confirm = () => screen.getByRole('button', { name: 'The machine shows them all' });

beforeEach(() => {
  jest.mocked(changedOver).mockReset().mockResolvedValue({ ok: true, value: null });
  push.mockReset();
  render(<ChangeOverCard setupId="s" rows={ROWS} media="foil" />);
});

test('it says what crosses zero and which keys; confirmed once it goes to the setup', async () => {
  expect(screen.getByText('It crosses zero: mind the sign, from −0.05 to 0.20.')).toBeInTheDocument();
  expect(screen.getByText('Keys: menu, 4.')).toBeInTheDocument();
  expect(screen.getByText(/wide cutter: leave it/)).toBeInTheDocument();
  await userEvent.setup().click(confirm());
  expect(sent()).toEqual({ setupId: 's', wanted: { x: 0.2, y: 1.1 }, found: {} });
  expect(push).toHaveBeenCalledWith('/setups/s');
});

test('it showed something else: what was found goes along, what cannot be read is said and stays', async () => {
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: 'It showed something else' }));
  const field = screen.getByLabelText('Offset Y showed');
  await user.type(field, 'one');
  await user.click(confirm());
  expect(screen.getByRole('alert')).toHaveTextContent('Type what Offset Y shows as a number');
  expect(field).toHaveValue('one');
  expect(changedOver).not.toHaveBeenCalled();
  await user.clear(field);
  await user.type(field, '−1,15');
  await user.click(confirm());
  expect(sent()).toEqual({ setupId: 's', wanted: { x: 0.2, y: 1.1 }, found: { y: -1.15 } });
});

test('refused: the reason stays beside the button, and nobody is sent away', async () => {
  jest.mocked(changedOver).mockResolvedValue({
    ok: false,
    said: 'stale',
    message: 'What foil wants has been changed meanwhile.',
    fields: {},
  });
  await userEvent.setup().click(confirm());
  expect(screen.getByRole('alert')).toHaveTextContent('has been changed meanwhile');
  expect(push).not.toHaveBeenCalled();
});
