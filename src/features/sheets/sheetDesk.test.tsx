/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { changeSheetJob } from './actions';
import { SheetDesk, type Laid } from './SheetDesk';

jest.mock('./actions', () => ({ changeSheetJob: jest.fn() }));

const LAID: Laid = {
  layout: { copies: null, gapMm: 3, centre: false, mayTurn: true },
  bleedMm: 0,
  kind: 'kiss-cut',
};
const user = userEvent.setup();
const show = (laid: Laid = LAID, neededMm: number | null = 0.3) => (
  <SheetDesk job={{ id: 'j', version: 5 }} laid={laid} neededMm={neededMm} unit="mm" />
);
/** What was sent last. */
const sent = () => jest.mocked(changeSheetJob).mock.lastCall![0].change as Laid;
async function type(label: string, text: string): Promise<void> {
  const field = screen.getByLabelText(label);
  await waitFor(() => expect(field).toBeEnabled());
  await user.clear(field);
  await user.type(field, `${text}{Enter}`);
}

beforeEach(() => {
  jest.mocked(changeSheetJob).mockReset().mockResolvedValue({ ok: true, value: null });
});

test.each<[string, string, (laid: Laid) => unknown, unknown]>([
  ['Copies', '12', (l) => l.layout.copies, 12],
  ['Gap, mm', '5', (l) => l.layout.gapMm, 5],
  ['Gap, mm', '1/4 in', (l) => l.layout.gapMm, 6.35],
  ['Bleed, mm', '1,5', (l) => l.bleedMm, 1.5],
])('%s typed as %s is kept with the version that was seen', async (label, text, of, value) => {
  render(show());
  await type(label, text);
  await waitFor(() => expect(changeSheetJob).toHaveBeenCalledTimes(1));
  expect(of(sent())).toBeCloseTo(value as number, 6);
  expect(jest.mocked(changeSheetJob).mock.lastCall![1]).toMatchObject({ version: 5 });
});

test.each([
  ['Copies', 'some', 'A whole number, or nothing to fill the sheet.'],
  ['Copies', '0', 'A whole number, or nothing to fill the sheet.'],
  ['Gap, mm', 'wide', '“wide” is not a length'],
])('%s typed as %s is said by its field, stays, and is not sent', async (label, text, words) => {
  render(show());
  await type(label, text);
  expect(await screen.findByText(new RegExp(words))).toBeInTheDocument();
  expect(screen.getByLabelText(label)).toHaveValue(text);
  expect(changeSheetJob).not.toHaveBeenCalled();
});

test('a change is undone and done again; what cannot be is no button', async () => {
  const view = render(show());
  await waitFor(() => expect(screen.getByLabelText('Its line is')).toBeEnabled());
  expect(screen.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await user.selectOptions(screen.getByLabelText('Its line is'), 'score');
  await waitFor(() => expect(sent().kind).toBe('score'));
  view.rerender(show({ ...LAID, kind: 'score' }));
  const undo = screen.getByRole('button', { name: 'Undo' });
  await waitFor(() => expect(undo).toBeEnabled());
  await user.click(undo);
  await waitFor(() => expect(sent().kind).toBe('kiss-cut'));
  view.rerender(show());
  const redo = screen.getByRole('button', { name: 'Redo' });
  await waitFor(() => expect(redo).toBeEnabled());
  await user.click(redo);
  await waitFor(() => expect(sent().kind).toBe('score'));
});

test('bleed that is less than the rig needs hidden is said; where nothing is known, nothing is', () => {
  const view = render(show({ ...LAID, bleedMm: 0.1 }));
  expect(screen.getByText(/needs 0.30 mm hidden/)).toHaveTextContent('This bleed is less than that.');
  view.rerender(show({ ...LAID, bleedMm: 0.5 }));
  expect(screen.getByText(/needs 0.30 mm hidden/)).not.toHaveTextContent('less than that');
  view.rerender(show(LAID, null));
  expect(screen.queryByText(/hidden/)).toBeNull();
});

test('a refusal is said, and nothing is counted as done', async () => {
  jest.mocked(changeSheetJob).mockResolvedValue({
    ...{ ok: false, said: 'refused', fields: {} },
    message: 'One piece needs 400 × 20 mm.',
  });
  render(show());
  await type('Copies', '3');
  expect(await screen.findByText(/One piece needs/)).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Undo' })).toBeDisabled();
});
