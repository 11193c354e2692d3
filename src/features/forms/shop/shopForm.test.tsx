/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { plainSetup } from '@test/setups';

import { ShopForm, type SaveShop } from './ShopForm';
import { shopFieldsOf } from './shopFields';

jest.mock('../acts/actions', () => ({ startOnSetup: jest.fn() }));
const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push, refresh: jest.fn() }) }));

const save = jest.fn<ReturnType<SaveShop>, Parameters<SaveShop>>();
const form = (version: number, toleranceMm = 0.5) => (
  <ShopForm
    part="setup"
    of={{ setupId: 's' }}
    version={version}
    initial={shopFieldsOf(plainSetup({ toleranceMm }), 'mm')}
    unit="mm"
    save={save}
    words="Save"
    back={{ href: '/', words: 'Back' }}
  />
);
const miss = () => screen.getByLabelText('Allowed miss');
const type = async (text: string) => {
  await userEvent.setup().clear(miss());
  await userEvent.setup().type(miss(), text);
};
const press = () => userEvent.setup().click(screen.getByRole('button', { name: 'Save' }));

beforeEach(() => {
  save.mockReset().mockResolvedValue({ ok: true, value: { goTo: null } });
});

test('unreadable: said by its field, nothing is sent, what was typed stays', async () => {
  render(form(1));
  await type('about half');
  await press();
  expect(await screen.findByText(/“about half” is not a length/)).toBeInTheDocument();
  expect(miss()).toHaveValue('about half');
  // It was folded: it is opened, then looked at.
  await waitFor(() => expect(miss()).toHaveFocus());
  expect(miss().closest('details')).toHaveAttribute('open');
  expect(save).not.toHaveBeenCalled();
});

test('a refresh leaves what is being typed alone, and the save says which version it started from', async () => {
  const { rerender } = render(form(1));
  await type('0.7');
  // Somebody else saved meanwhile: the page refreshes with theirs.
  rerender(form(2, 0.6));
  expect(miss()).toHaveValue('0.7');
  save.mockResolvedValueOnce({ ok: false, said: 'stale', message: 'saved “0.6”, yours “0.7”', fields: {} });
  await press();
  expect(await screen.findByText(/saved “0.6”, yours “0.7”/)).toBeInTheDocument();
  expect(save.mock.lastCall![0]).toMatchObject({ version: 1, toleranceMm: 0.7 });
  expect(miss()).toHaveValue('0.7');
});

test('saved: the next save starts from what was saved, and goes where the answer says', async () => {
  const { rerender } = render(form(1));
  await type('0.7');
  await press();
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('Saved.'));
  rerender(form(2, 0.7));
  await type('0.8');
  save.mockResolvedValueOnce({ ok: true, value: { goTo: '/setups/new' } });
  await press();
  await waitFor(() => expect(push).toHaveBeenCalledWith('/setups/new'));
  expect(save.mock.lastCall![0]).toMatchObject({ version: 2, toleranceMm: 0.8 });
});

test('what the server refuses by its own names stands by the form’s field', async () => {
  render(form(1));
  save.mockResolvedValueOnce({
    ok: false,
    said: 'refused',
    message: 'Some figures need another look; they are marked.',
    fields: { toleranceMm: 'At least 0.02 mm: no eye sees less.' },
  });
  await type('0.06');
  await press();
  expect(await screen.findByText('At least 0.02 mm: no eye sees less.')).toBeInTheDocument();
  expect(miss()).toHaveAttribute('aria-invalid', 'true');
});

test('how a rig’s files lie: y stands square to x, a mirror is told, and what is typed goes out in mm', async () => {
  const user = userEvent.setup();
  render(
    <ShopForm
      part="rig"
      of={{ rigId: 'r' }}
      version={1}
      initial={shopFieldsOf(plainSetup(), 'in')}
      unit="in"
      save={save}
      words="Save"
      back={{ href: '/', words: 'Back' }}
    />,
  );
  const choose = (label: string, value: string) => user.selectOptions(screen.getByLabelText(label), value);
  await screen.findByLabelText('x runs');
  for (const fold of document.querySelectorAll('details')) fold.open = true;
  await choose('x runs', 'further');
  expect(screen.getByLabelText('y runs')).toHaveValue('left');
  expect(screen.queryByText(/mirror images/)).toBeNull();
  await choose('y runs', 'right');
  expect(screen.getByText(/mirror images/)).toBeVisible();
  // Turned round, y is taken along.
  await choose('x runs', 'left');
  expect(screen.getByLabelText('y runs')).toHaveValue('nearer');
  await choose('Its zero lies at', 'typed');
  const left = screen.getByLabelText('From the left edge, in');
  await user.clear(left);
  await user.type(left, '1/2');
  await press();
  await waitFor(() => expect(save).toHaveBeenCalled());
  expect(save.mock.calls[0]![0]).toMatchObject({
    fileFrame: { xRuns: 'left', yRuns: 'nearer', zero: { at: 'typed', xMm: 12.7, yMm: 0 } },
  });
});

test('an allowed miss that nobody would allow is asked about; what is proposed is put in and saved', async () => {
  render(form(1));
  await type('50');
  await press();
  expect(await screen.findByRole('alertdialog')).toHaveTextContent(
    'is off for everybody to see. What is it?',
  );
  expect(save).not.toHaveBeenCalled();
  await userEvent.setup().click(screen.getByRole('button', { name: '5 mm' }));
  await waitFor(() => expect(save).toHaveBeenCalledTimes(1));
  expect(save.mock.lastCall![0]).toMatchObject({ toleranceMm: 5 });
  expect(save.mock.lastCall![1]).toMatchObject({ sure: [{ field: 'toleranceMm', typed: '50', meant: '5' }] });
});
