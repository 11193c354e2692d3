/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import type { Twin } from '@/server/rigs/sameMachines';

import { putTogether } from './actions';
import { SameMachines } from './SameMachines';

jest.mock('./actions', () => ({ putTogether: jest.fn() }));
jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh: jest.fn() }) }));

const TWIN: Twin = {
  rigId: 'other',
  name: 'Card rig',
  media: ['card', 'kraft'],
  settings: [
    { id: 'x', name: 'Offset X', value: 0.85, other: { id: 'x2', value: 1.1 } },
    { id: 'y', name: 'Offset Y', value: 0.2, other: { id: 'y2', value: 0.2 } },
  ],
  against: null,
};
const show = (more: Partial<Twin> = {}) =>
  render(<SameMachines rigId="mine" rigName="Desk rig" twin={{ ...TWIN, ...more }} />);
const press = () => userEvent.setup().click(screen.getByRole('button', { name: /They are the same/ }));
const sent = () => jest.mocked(putTogether).mock.lastCall?.[0];

beforeEach(() => {
  jest.mocked(putTogether).mockReset().mockResolvedValue({ ok: true, value: null });
});

test('only what differs is asked: what the machine shows now, where it keeps one for all', async () => {
  show();
  expect(screen.getByText(/used with card, kraft/)).toBeInTheDocument();
  const field = screen.getByLabelText('Offset X shows now');
  expect(screen.queryByLabelText('Offset Y shows now')).not.toBeInTheDocument();
  const user = userEvent.setup();
  await user.clear(field);
  await user.type(field, 'one');
  await press();
  expect(await screen.findByText(/Type what the machine shows as a number/)).toBeInTheDocument();
  expect(putTogether).not.toHaveBeenCalled();
  await user.clear(field);
  await user.type(field, '0,9');
  await press();
  expect(sent()).toEqual({ rigId: 'mine', otherId: 'other', kept: 'one', shows: { x: 0.9 } });
});

test('one for each medium: no figure is asked', async () => {
  show();
  await userEvent.setup().click(screen.getByLabelText(/one for each medium/));
  expect(screen.queryByLabelText('Offset X shows now')).not.toBeInTheDocument();
  await press();
  expect(sent()).toEqual({ rigId: 'mine', otherId: 'other', kept: 'per-medium', shows: {} });
});

test('what cannot be one machine as it is described is said, and cannot be pressed', () => {
  show({ against: 'Offset X does something else on each of them' });
  expect(screen.getByText(/Offset X does something else/)).toBeInTheDocument();
  expect(screen.queryByRole('button')).not.toBeInTheDocument();
});

test('refused: the reason is said beside it', async () => {
  jest.mocked(putTogether).mockResolvedValue({
    ok: false,
    said: 'refused',
    message: 'Both have card in this size.',
    fields: {},
  });
  show({ settings: [TWIN.settings[1]!] });
  await press();
  expect(await screen.findByRole('alert')).toHaveTextContent('Both have card in this size.');
});
