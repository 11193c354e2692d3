/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { USUAL_POLICY } from '@/core/control';
import { EVENT_KINDS } from '@/core/setup';

import { savePolicy } from './actions';
import { PolicyForm } from './PolicyForm';

jest.mock('./actions', () => ({ savePolicy: jest.fn() }));

const user = userEvent.setup();
const show = () => render(<PolicyForm rigId="r" version={3} policy={USUAL_POLICY} />);
const press = () => user.click(screen.getByRole('button', { name: 'Keep this' }));
const sent = () => jest.mocked(savePolicy).mock.lastCall?.[0];

beforeEach(() => {
  jest.mocked(savePolicy).mockReset().mockResolvedValue({ ok: true, value: null });
});

test('what is ticked, and the days, are kept together with the version that was shown', async () => {
  show();
  await user.click(screen.getByLabelText('new blade'));
  await user.click(screen.getByLabelText(/on average/));
  await user.type(screen.getByLabelText(/days without a cut/), '45');
  await press();
  expect(sent()).toEqual({
    ...{ rigId: 'r', version: 3, signals: false, idleDays: 45 },
    events: EVENT_KINDS.filter((k) => k !== 'new-blade'),
  });
  expect(await screen.findByText('Kept.')).toBeInTheDocument();
});

test.each([['soon'], ['0'], ['1.5'], ['-3']])('“%s” days are questioned and stay typed', async (typed) => {
  show();
  const field = screen.getByLabelText(/days without a cut/);
  await user.type(field, typed);
  await press();
  expect(screen.getByText(/Type whole days, for example 30/)).toBeInTheDocument();
  expect(field).toHaveValue(typed);
  expect(savePolicy).not.toHaveBeenCalled();
});

test('somebody else was faster: it is said, what was ticked stays', async () => {
  jest
    .mocked(savePolicy)
    .mockResolvedValue({ ok: false, said: 'stale', message: 'Somebody changed it.', fields: {} });
  show();
  await user.click(screen.getByLabelText('moved'));
  await press();
  expect(await screen.findByText('Somebody changed it.')).toBeInTheDocument();
  expect(screen.getByLabelText('moved')).not.toBeChecked();
});
