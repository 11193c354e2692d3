/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { keepCheck } from '../actions';

import { CheckForm, type KnownCheck } from './CheckForm';

jest.mock('../actions', () => ({ keepCheck: jest.fn() }));

/* The check form as an operator works it: what is typed stays until it is kept, and what is kept is what was meant. */

const kept = jest.mocked(keepCheck);
beforeEach(() => kept.mockReset().mockResolvedValue({ ok: true, value: null }));

const form = (known: readonly KnownCheck[] = [], sections: readonly number[] = [2]) =>
  render(
    <CheckForm
      runId="run"
      sections={sections}
      known={known}
      toleranceMm={0.5}
      usual={{ allowedMm: 0.5, everMm: 0.2 }}
      outline="rectangle"
      item={{ widthMm: 185, heightMm: 110 }}
      loaded={{ leadingEdge: 'near', printedSideUp: true }}
      main
      unit="mm"
    />,
  );
const keep = () => screen.getByRole('button', { name: /^Keep/ });

test('sizes and sides become signed offsets; the last row comes next and the fields are empty again', async () => {
  const user = userEvent.setup();
  form();
  await user.type(screen.getByLabelText('Along, mm'), '0,31');
  await user.click(screen.getByRole('button', { name: 'back' }));
  await user.type(screen.getByLabelText('Across, mm'), '0.08');
  await user.click(screen.getByRole('button', { name: 'right' }));
  expect(screen.getByText('The cut lies 0.31 mm back and 0.08 mm right.')).toBeInTheDocument();
  await user.click(keep());
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('Kept: section 2, first row.'));
  expect(kept.mock.calls[0]![0]).toMatchObject({
    ...{ runId: 'run', section: 2, place: 'first row', way: 'comb', replaces: [] },
    ...{ dxMm: 0.08, dyMm: -0.31 },
  });
  expect(screen.getByRole('button', { name: 'Last row' })).toHaveAttribute('aria-pressed', 'true');
  expect(screen.getByLabelText('Along, mm')).toHaveValue('');
});

test.each([
  ['nothing', '', /Enter at least one direction; 0 when the cut is where it should be/],
  ['words', 'a bit', /“a bit” is not a length/],
])('%s typed: said by the field, tied to it, nothing sent, and it stays', async (_, typed, message) => {
  const user = userEvent.setup();
  form();
  const along = screen.getByLabelText('Along, mm');
  if (typed) await user.type(along, typed);
  await user.click(keep());
  expect(along).toHaveAccessibleDescription(message);
  expect(along).toBeInvalid();
  expect(along).toHaveValue(typed);
  expect(kept).not.toHaveBeenCalled();
});

test('a refusal of the log is said and what was typed stays', async () => {
  kept.mockResolvedValue({
    ...{ ok: false, said: 'refused', message: 'The run rests. Go on with it first.', fields: {} },
  });
  const user = userEvent.setup();
  form();
  await user.type(screen.getByLabelText('Along, mm'), '+0.2');
  await user.click(keep());
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('The run rests.'));
  expect(screen.getByLabelText('Along, mm')).toHaveValue('+0.2');
  expect(screen.getByRole('button', { name: 'First row' })).toHaveAttribute('aria-pressed', 'true');
});

test('a row that was read already is replaced, or counted beside when that is ticked', async () => {
  const user = userEvent.setup();
  const known = [{ id: 'c1', section: 2, place: 'last row' as const, by: 'IM' }];
  form([{ id: 'c0', section: 2, place: 'first row', by: 'KT' }, ...known]);
  expect(screen.getByRole('button', { name: 'Last row' })).toHaveAttribute('aria-pressed', 'true');
  await user.type(screen.getByLabelText('Along, mm'), '0');
  await user.click(keep());
  await waitFor(() => expect(kept).toHaveBeenCalledTimes(1));
  expect(kept.mock.calls[0]![0]).toMatchObject({ replaces: ['c1'] });
  await user.type(screen.getByLabelText('Along, mm'), '0');
  await user.click(screen.getByRole('checkbox', { name: /IM has read this/ }));
  await user.click(keep());
  await waitFor(() => expect(kept).toHaveBeenCalledTimes(2));
  expect(kept.mock.calls[1]![0]).toMatchObject({ replaces: [] });
});

test('gaps: half the difference of opposite ones', async () => {
  const user = userEvent.setup();
  form([], [3, 2]);
  await user.selectOptions(screen.getByLabelText('Section'), '2');
  await user.selectOptions(screen.getByLabelText('Read by'), 'gaps');
  for (const [name, typed] of [
    ['Left gap, mm', '1.8'],
    ['Right gap, mm', '2.2'],
    ['Near gap, mm', '2.1'],
    ['Far gap, mm', '1.9'],
  ] as const)
    await user.type(screen.getByLabelText(name), typed);
  await user.click(keep());
  await waitFor(() => expect(kept).toHaveBeenCalledTimes(1));
  const sent = kept.mock.calls[0]![0] as unknown as { dxMm: number; dyMm: number };
  expect(sent.dxMm).toBeCloseTo(0.2, 9);
  expect(sent.dyMm).toBeCloseTo(-0.1, 9);
});

test('a slip of the point is asked about once; what is meant goes out with the answer', async () => {
  const user = userEvent.setup();
  form();
  const along = screen.getByLabelText('Along, mm');
  await user.type(along, '12');
  // No side is chosen beforehand: it is asked for, and named by the button.
  expect(keep()).toHaveTextContent('Keep it: first say its side');
  await user.click(keep());
  expect(along).toHaveAccessibleDescription('Say which side: further or back.');
  expect(screen.queryByRole('alertdialog')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'further' }));
  await user.click(keep());
  expect(kept).not.toHaveBeenCalled();
  const asked = screen.getByRole('alertdialog');
  expect(asked).toHaveTextContent(
    '12.00 mm is 24 times what is allowed here and 60 times what is on record here. What is it?1.2 mm0.12 mm12 as typed',
  );
  // It has the focus, no answer has: another Enter chooses nothing.
  expect(asked).toHaveFocus();
  await user.keyboard('{Enter}');
  expect(kept).not.toHaveBeenCalled();
  // Typed again: the question is gone, and comes again for what is typed now.
  await user.clear(along);
  await user.type(along, '3.5');
  expect(screen.queryByRole('alertdialog')).toBeNull();
  await user.click(keep());
  await user.click(screen.getByRole('button', { name: '3.5 as typed' }));
  await waitFor(() => expect(kept).toHaveBeenCalledTimes(1));
  expect(kept.mock.calls[0]![0]).toMatchObject({ dyMm: 3.5, dxMm: null });
  expect(kept.mock.calls[0]![1]).toMatchObject({ sure: [{ field: 'along', typed: '3.5', meant: '3.5' }] });
});

test('what is proposed is put in and kept by one press', async () => {
  const user = userEvent.setup();
  form();
  await user.click(screen.getByRole('button', { name: 'left' }));
  await user.type(screen.getByLabelText('Across, mm'), '4.1');
  await user.click(keep());
  await user.click(screen.getByRole('button', { name: '0.41 mm' }));
  await waitFor(() => expect(kept).toHaveBeenCalledTimes(1));
  expect(kept.mock.calls[0]![0]).toMatchObject({ dxMm: -0.41 });
  expect(kept.mock.calls[0]![1]).toMatchObject({ sure: [{ field: 'across', typed: '4.1', meant: '0.41' }] });
});

test('a size without its side is given it by a key of the picture; a press more moves the cut', async () => {
  const user = userEvent.setup();
  form();
  await user.type(screen.getByLabelText('Across, mm'), '0.2');
  await user.click(screen.getByRole('button', { name: 'Move the cut left' }));
  expect(screen.getByText('The cut lies 0.20 mm left.')).toBeInTheDocument();
  await user.click(screen.getByRole('button', { name: 'Move the cut left' }));
  expect(screen.getByText('The cut lies 0.25 mm left.')).toBeInTheDocument();
  expect(keep()).toHaveTextContent('Keep this check');
});
