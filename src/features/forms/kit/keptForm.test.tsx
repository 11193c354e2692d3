/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';

import { doubts } from './doubts';
import { Choice, Field, KeptForm } from './Fields';
import { length, plainWords } from './typed';
import { useKeptForm } from './useKeptForm';

interface Given {
  readonly kind: string;
  readonly sizeMm: number;
}
const send = jest.fn<Promise<ActionResult<{ readonly number: string }>>, [Given, BrowserStamp]>();
beforeEach(() => send.mockReset().mockResolvedValue({ ok: true, value: { number: '0147' } }));

function Small() {
  const form = useKeptForm({
    ...{ unit: 'mm' as const, what: 'small' },
    initial: { kind: 'a', sizeMm: '' },
    readers: { kind: plainWords, sizeMm: length },
    judge: ({ sizeMm }, typed) =>
      doubts('sizeMm', typed.sizeMm, 'known length', sizeMm, { nominalMm: 100 }, 'mm'),
    send,
    done: (_, { number }) => `Kept as ${number}.`,
    after: ({ kind }) => ({ kind, sizeMm: '' }),
  });
  return (
    <KeptForm form={form} words="Keep it">
      <Choice form={form} id="kind" name="kind" label="Kind" options={['a', ['b', 'the other']]} />
      <Field form={form} id="size" name="sizeMm" label="Size, mm" hint="by a rule" figures />
    </KeptForm>
  );
}

const size = () => screen.getByLabelText('Size, mm');
const keep = () => userEvent.click(screen.getByRole('button', { name: 'Keep it' }));

test('unreadable: said by its field in place of the hint, nothing is sent, what was typed stays', async () => {
  render(<Small />);
  expect(size()).toHaveAccessibleDescription('by a rule');
  await userEvent.type(size(), 'long');
  await keep();
  expect(size()).toHaveAccessibleDescription(/“long” is not a length/);
  expect(size()).toHaveAttribute('aria-invalid', 'true');
  expect(send).not.toHaveBeenCalled();
  expect(size()).toHaveValue('long');
});

test('kept: what it became is said, and the fields are as they should be for the next', async () => {
  render(<Small />);
  await userEvent.selectOptions(screen.getByLabelText('Kind'), 'the other');
  await userEvent.type(size(), '100,2');
  await keep();
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('Kept as 0147.'));
  expect(send.mock.calls[0]![0]).toEqual({ kind: 'b', sizeMm: 100.2 });
  expect([size(), screen.getByLabelText('Kind')].map((f) => (f as HTMLInputElement).value)).toEqual([
    '',
    'b',
  ]);
});

test('refused: at its field where there is one, else beside the button', async () => {
  send.mockResolvedValueOnce({ ok: false, said: 'refused', message: 'm', fields: { sizeMm: 'Too long.' } });
  render(<Small />);
  await userEvent.type(size(), '101');
  await keep();
  await waitFor(() => expect(size()).toHaveAccessibleDescription('Too long.'));
  expect(screen.getByRole('status')).toHaveTextContent('');
  send.mockResolvedValueOnce({ ok: false, said: 'refused', message: 'It is closed.', fields: {} });
  await keep();
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('It is closed.'));
  expect(size()).toHaveValue('101');
});

test('no answer: pressed again it goes out under the same number, and a question is not asked twice', async () => {
  send.mockRejectedValueOnce(new Error('connection lost'));
  render(<Small />);
  await userEvent.type(size(), '10.1');
  await keep();
  expect(screen.getByRole('alertdialog')).toHaveTextContent('10.10 mm where 100.00 mm should be.');
  await userEvent.click(screen.getByRole('button', { name: '10.1 as typed' }));
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent(/No answer/));
  await keep();
  await waitFor(() => expect(send).toHaveBeenCalledTimes(2));
  const [first, second] = send.mock.calls.map(([given, stamp]) => ({ given, stamp }));
  expect(second).toEqual(first);
  expect(first!.stamp.sure).toMatchObject([{ field: 'sizeMm', typed: '10.1', meant: '10.1' }]);
});
