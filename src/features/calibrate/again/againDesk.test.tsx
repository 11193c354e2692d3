/** @jest-environment jsdom */
import '@test/dom';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';

import { crossedStudy } from '@/core/readings/repeat';
import { proofSheet } from '@test/sheets';

import { keepAgain, takeBackAgain } from '../actions';
import { adviceWords, studyAnswer, studyRows, usedWords } from './again.view';
import { AgainDesk } from './AgainDesk';

jest.mock('../actions', () => ({ keepAgain: jest.fn(), takeBackAgain: jest.fn() }));

const SHEET = proofSheet({ columns: 2, rows: 1, secondSet: false });
const NEXT = { station: SHEET.stations[0]!, axis: 'across' as const, round: 2, done: 3, of: 10 };
const show = (mayTakeBack = true) =>
  render(
    <AgainDesk
      {...{ passId: 'p', sheet: SHEET, set: 1, next: NEXT, mayTakeBack, simulated: null, unit: 'mm' }}
    />,
  );
const key = (k: string) => fireEvent.keyDown(document.body, { key: k });
const enabled = async () =>
  waitFor(() => expect(screen.getByRole('button', { name: /^Keep/ })).toBeEnabled());

beforeEach(() => {
  jest
    .mocked(keepAgain)
    .mockReset()
    .mockResolvedValue({ ok: true, value: { round: 2 } });
  jest
    .mocked(takeBackAgain)
    .mockReset()
    .mockResolvedValue({ ok: true, value: { taken: 'A1 across' } });
});

test('a comb starts at its middle, is matched by keys, and kept once for its round', async () => {
  show();
  await enabled();
  expect(screen.getByText(/Round 2, comb 4 of 10/)).toBeInTheDocument();
  expect(screen.queryByRole('button', { name: /coarse/ })).not.toBeInTheDocument();
  key('ArrowRight');
  key('ArrowRight');
  key('b');
  key('Enter');
  key('Enter');
  await waitFor(() => expect(keepAgain).toHaveBeenCalledTimes(1));
  expect(keepAgain).toHaveBeenCalledWith(
    { passId: 'p', stationId: 'A1', axis: 'across', round: 2, line: 2, between: true },
    expect.anything(),
  );
});

test('what is refused is said; Delete takes the last look back, where there is one', async () => {
  jest
    .mocked(keepAgain)
    .mockResolvedValue({ ok: false, said: 'refused', message: 'Read it first.', fields: {} });
  const { unmount } = show();
  await enabled();
  key('Enter');
  expect(await screen.findByRole('alert')).toHaveTextContent('Read it first.');
  await enabled();
  key('Delete');
  await waitFor(() => expect(takeBackAgain).toHaveBeenCalledWith('p', expect.anything()));
  unmount();
  show(false);
  await enabled();
  key('Delete');
  expect(takeBackAgain).toHaveBeenCalledTimes(1);
});

test('what a study says, in words', () => {
  const table = [0, 1, 2, 3].map((c) => [
    [c, c + 0.02],
    [c + 0.06, c + 0.08],
  ]);
  const study = {
    ...crossedStudy(table)!,
    ...{ used: 16, of: 17, who: ['KT', 'MO'], oneReadingMm: 0.05, acuityMm: 0.05, smallestSeenMm: 0.16 },
    advice: ['agree', 'loupe'] as const,
  };
  expect(studyAnswer(study, 'mm')).toBe(
    'KT and MO read so that two readings further apart than 0.16 mm differ by more than chance.',
  );
  expect(studyRows(study, 'mm').map((r) => [r.name, r.sd])).toEqual([
    ['the same person again', '0.01 mm'],
    ['person to person', '0.04 mm'],
    ['person to person, comb by comb', '0.00 mm'],
    ['one reading by anybody', expect.any(String)],
  ]);
  expect(adviceWords(study)).toHaveLength(2);
  expect(usedWords(study, 'mm')).toContain('0.05 mm');
  expect(usedWords({ ...study, acuityMm: null }, 'mm')).toContain('nothing worse was seen');
});
