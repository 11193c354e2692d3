/** @jest-environment jsdom */
import '@test/dom';
import { act, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { changeSheetJob, freezeSheetJob } from './actions';
import { DraftWork, onto, type Laid } from './DraftWork';
import { Freeze } from './Freeze';
import { PiecesDesk, type PieceTold } from './PiecesDesk';
import { UndoRow } from './MovePieces';
import { SheetDesk } from './SheetDesk';

jest.mock('./actions', () => ({ changeSheetJob: jest.fn(), freezeSheetJob: jest.fn() }));

const LAID: Laid = {
  ...{ name: 'tags', setupId: 'one' },
  layout: { gapMm: 3, centre: false, mayTurn: true },
  pieces: [{ id: 'A', copies: null, bleedMm: 0, kind: 'kiss-cut', second: null }],
};
const TOLD: PieceTold = { name: 'badge.png', widthMm: 40, heightMm: 30, dpi: 300, lineOf: null };
const withPiece = (by: Partial<Laid['pieces'][number]>, laid = LAID): Laid => ({
  ...laid,
  pieces: laid.pieces.map((p, i) => (i === 0 ? { ...p, ...by } : p)),
});
const user = userEvent.setup();
const show = (laid: Laid = LAID, neededMm: number | null = 0.3) => (
  <DraftWork job={{ id: 'j', version: 5 }} laid={laid}>
    <PiecesDesk jobId="j" told={{ A: TOLD, B: { ...TOLD, name: 'tag.png' } }} neededMm={neededMm} unit="mm" />
    <SheetDesk
      setups={[
        { id: 'one', words: 'label sheet on Desk rig' },
        { id: 'two', words: 'film on Roll rig' },
      ]}
      unit="mm"
    />
    <UndoRow />
  </DraftWork>
);
/** What was sent last. */
const sent = () => jest.mocked(changeSheetJob).mock.lastCall![0] as unknown as Laid;
async function type(label: string, text: string): Promise<void> {
  const field = screen.getByLabelText(label);
  await waitFor(() => expect(field).toBeEnabled());
  await user.clear(field);
  await user.type(field, `${text}{Enter}`);
}

beforeEach(() => {
  sessionStorage.clear();
  jest.mocked(changeSheetJob).mockReset().mockResolvedValue({ ok: true, value: null });
});

test.each<[string, string, (laid: Laid) => unknown, unknown]>([
  ['Copies', '12', (l) => l.pieces[0]!.copies, 12],
  ['Gap, mm', '5', (l) => l.layout.gapMm, 5],
  ['Gap, mm', '1/4 in', (l) => l.layout.gapMm, 6.35],
  ['Bleed, mm', '1,5', (l) => l.pieces[0]!.bleedMm, 1.5],
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
  await waitFor(() => expect(screen.getByLabelText('Cut kind')).toBeEnabled());
  expect(screen.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await user.selectOptions(screen.getByLabelText('Cut kind'), 'score');
  await waitFor(() => expect(sent().pieces[0]!.kind).toBe('score'));
  view.rerender(show(withPiece({ kind: 'score' })));
  const undo = screen.getByRole('button', { name: 'Undo' });
  await waitFor(() => expect(undo).toBeEnabled());
  await user.click(undo);
  await waitFor(() => expect(sent().pieces[0]!.kind).toBe('kiss-cut'));
  view.rerender(show());
  const redo = screen.getByRole('button', { name: 'Redo' });
  await waitFor(() => expect(redo).toBeEnabled());
  await user.click(redo);
  await waitFor(() => expect(sent().pieces[0]!.kind).toBe('score'));
  // And by keys.
  view.rerender(show(withPiece({ kind: 'score' })));
  await waitFor(() => expect(screen.getByRole('button', { name: 'Undo' })).toBeEnabled());
  await user.click(document.body);
  await user.keyboard('{Control>}z{/Control}');
  await waitFor(() => expect(sent().pieces[0]!.kind).toBe('kiss-cut'));
});

test('bleed that is less than the rig needs hidden is said; where nothing is known, nothing is', () => {
  const view = render(show(withPiece({ bleedMm: 0.1 })));
  expect(screen.getByText(/Bleed needed on this rig: 0.30 mm/)).toHaveTextContent(
    'This bleed is less than that.',
  );
  view.rerender(show(withPiece({ bleedMm: 0.5 })));
  expect(screen.getByText(/Bleed needed on this rig: 0.30 mm/)).not.toHaveTextContent('less than that');
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

test('of several pieces each has its own count, bleed and lines; one can be left out, the last one cannot', async () => {
  const two: Laid = { ...LAID, pieces: [LAID.pieces[0]!, { ...LAID.pieces[0]!, id: 'B', copies: 2 }] };
  const view = render(show(two));
  const b = within(screen.getByRole('group', { name: /^B tag\.png/ }));
  await waitFor(() => expect(b.getByLabelText('Copies')).toBeEnabled());
  await user.type(b.getByLabelText(/^Second line/), '3{Enter}');
  await waitFor(() => expect(sent().pieces[1]!.second).toEqual({ byMm: 3, kind: 'cut-through' }));
  expect(sent().pieces[0]!.second).toBeNull();
  await user.click(b.getByRole('button', { name: 'Leave it out' }));
  await waitFor(() => expect(sent().pieces.map((p) => p.copies)).toEqual([null, 0]));
  view.rerender(show());
  expect(screen.queryByRole('button', { name: 'Leave it out' })).toBeNull();
  expect(screen.getByRole('link', { name: 'Change its line' })).toHaveAttribute(
    'href',
    '/jobs/sheets/j/pieces/A',
  );
});

test('laid out anew, nothing lies where it was moved by hand', async () => {
  render(show({ ...LAID, layout: { ...LAID.layout, nudged: [{ sheet: 0, index: 1, dxMm: 2, dyMm: 0 }] } }));
  await type('Copies', '4');
  await waitFor(() => expect(sent().pieces[0]!.copies).toBe(4));
  expect(sent().layout.nudged).toEqual([]);
});

test('a picture that prints coarsely at its size is questioned', () => {
  render(
    <DraftWork job={{ id: 'j', version: 5 }} laid={LAID}>
      <PiecesDesk jobId="j" told={{ A: { ...TOLD, dpi: 96.4 } }} neededMm={null} unit="mm" />
    </DraftWork>,
  );
  expect(screen.getByText(/has 96 pixels an inch at this size/)).toBeInTheDocument();
});

test('its name and its setup are changed like everything else; an empty name is none', async () => {
  render(show());
  await type('Name', '  ');
  expect(changeSheetJob).not.toHaveBeenCalled();
  await type('Name', 'crate tags');
  await waitFor(() => expect(sent().name).toBe('crate tags'));
  await user.selectOptions(screen.getByLabelText('Printed and cut on'), 'film on Roll rig');
  await waitFor(() => expect(sent().setupId).toBe('two'));
});

/** Something the server answers when it is told to. */
function answering() {
  let answer: (value: unknown) => void = () => undefined;
  jest.mocked(changeSheetJob).mockImplementation(() => new Promise((said) => (answer = said as never)));
  return (value: unknown) => act(async () => answer(value));
}

test('what is chosen shows before the server has answered, and is taken back when it refuses', async () => {
  const answer = answering();
  render(show());
  const kind = screen.getByLabelText('Cut kind');
  await waitFor(() => expect(kind).toBeEnabled());
  await user.selectOptions(kind, 'score');
  await waitFor(() => expect(changeSheetJob).toHaveBeenCalledTimes(1));
  expect(screen.getByLabelText('Cut kind')).toHaveValue('score');
  await answer({ ok: false, said: 'refused', message: 'It is frozen by now.', fields: {} });
  expect(await screen.findByText('It is frozen by now.')).toBeInTheDocument();
  expect(screen.getByLabelText('Cut kind')).toHaveValue('kiss-cut');
});

test('undo outlives leaving the page; pieces that came since stay as they are', async () => {
  const view = render(show());
  await waitFor(() => expect(screen.getByLabelText('Cut kind')).toBeEnabled());
  await user.selectOptions(screen.getByLabelText('Cut kind'), 'score');
  await waitFor(() => expect(screen.getByRole('button', { name: 'Undo' })).toBeEnabled());
  view.unmount();
  const b = { ...LAID.pieces[0]!, id: 'B', kind: 'score' as const };
  const now = { ...withPiece({ kind: 'score' }), pieces: [...withPiece({ kind: 'score' }).pieces, b] };
  render(show(now));
  const undo = screen.getByRole('button', { name: 'Undo' });
  await waitFor(() => expect(undo).toBeEnabled());
  await user.click(undo);
  await waitFor(() =>
    expect(sent().pieces.map((p) => [p.id, p.kind])).toEqual([
      ['A', 'kiss-cut'],
      ['B', 'score'],
    ]),
  );
  // What went since is not brought back by it.
  expect(onto(now, LAID).pieces.map((p) => p.id)).toEqual(['A']);
});

test('freezing waits for what is under way; what stops it is named first', async () => {
  jest.mocked(freezeSheetJob).mockResolvedValue({ ok: true, value: null });
  const answer = answering();
  const page = (version: number, stops: readonly string[]) => (
    <DraftWork job={{ id: 'j', version }} laid={LAID}>
      <PiecesDesk jobId="j" told={{ A: TOLD }} neededMm={0.3} unit="mm" />
      <Freeze job={{ id: 'j', version }} stops={stops} />
    </DraftWork>
  );
  const view = render(page(5, []));
  await waitFor(() => expect(screen.getByLabelText('Cut kind')).toBeEnabled());
  await user.selectOptions(screen.getByLabelText('Cut kind'), 'score');
  await user.click(screen.getByRole('button', { name: 'Freeze it for printing' }));
  expect(screen.getByRole('button', { name: /As soon as it is laid out/ })).toBeDisabled();
  expect(freezeSheetJob).not.toHaveBeenCalled();
  view.rerender(page(6, []));
  await answer({ ok: true, value: null });
  await waitFor(() => expect(freezeSheetJob).toHaveBeenCalledTimes(1));
  // With the version that the change made.
  expect(jest.mocked(freezeSheetJob).mock.lastCall![1]).toMatchObject({ version: 6 });
  view.rerender(page(6, ['A line crosses itself.', 'A piece is printed on another.']));
  await user.click(await screen.findByRole('button', { name: /first the 2 that stop it/ }));
  expect(freezeSheetJob).toHaveBeenCalledTimes(1);
  await user.type(screen.getByLabelText(/Why is it frozen all the same/), 'a test sheet');
  await user.click(screen.getByRole('button', { name: 'Freeze it all the same' }));
  await waitFor(() => expect(freezeSheetJob).toHaveBeenCalledTimes(2));
  expect(jest.mocked(freezeSheetJob).mock.lastCall![0]).toEqual({ jobId: 'j', reason: 'a test sheet' });
});
