/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { laminated, makeFile, releaseIt, sectionIsCut, sectionIsFinished } from '../actions';
import { ReleaseForm } from '../release/ReleaseForm';

import { FinishForm, LaminateForm } from './RunForms';
import { SectionFiles } from './SectionFiles';

jest.mock('@/features/forms/acts/actions', () => ({}));
jest.mock('../actions', () => ({
  laminated: jest.fn(),
  makeFile: jest.fn(),
  releaseIt: jest.fn(),
  sectionIsCut: jest.fn(),
  sectionIsFinished: jest.fn(),
}));

/* The steps of a section at the machine: what goes out is what was meant, and what is refused is said where it was pressed. */

const DONE = { ok: true, value: null } as const;
const refused = (message: string) => ({ ok: false, said: 'refused', message, fields: {} }) as const;
const acts = [laminated, makeFile, releaseIt, sectionIsCut, sectionIsFinished].map((a) => jest.mocked(a));
beforeEach(() => acts.forEach((act) => act.mockReset()));

const FILES = [
  { id: 'f2', fileName: 'R007_section-02_second.svg' },
  { id: 'f1', fileName: 'R007_section-02_first.svg' },
];
const files = (list = FILES) =>
  render(<SectionFiles runId="run" section={2} files={list} formats={['svg', 'dxf', 'hpgl']} main />);
const cutWithFile = () => screen.getByRole('button', { name: 'Section 2 is cut with its file' });

test('no file yet: nothing is sent, and what is missing is said', async () => {
  files([]);
  await userEvent.click(cutWithFile());
  expect(await screen.findByRole('alert')).toHaveTextContent('No corrected file of section 2 was made yet.');
  expect(sectionIsCut).not.toHaveBeenCalled();
});

test.each([
  ['the newest by itself', null, 'f2'],
  ['the one that was loaded, when it is named', 'f1', 'f1'],
])('of several files %s is on record', async (_, chosen, sent) => {
  jest.mocked(sectionIsCut).mockResolvedValue(DONE);
  files();
  if (chosen) await userEvent.selectOptions(screen.getByLabelText('The file that was loaded'), chosen);
  await userEvent.click(cutWithFile());
  await waitFor(() => expect(sectionIsCut).toHaveBeenCalledTimes(1));
  expect(jest.mocked(sectionIsCut).mock.calls[0]![0]).toEqual({ runId: 'run', section: 2, fileId: sent });
});

test('cut as drawn names no file; pressed twice without an answer it goes out under one number', async () => {
  jest.mocked(sectionIsCut).mockRejectedValueOnce(new TypeError('network')).mockResolvedValueOnce(DONE);
  files();
  const drawn = screen.getByRole('button', { name: 'Section 2 is cut, as drawn' });
  await userEvent.click(drawn);
  expect(await screen.findByRole('alert')).toHaveTextContent('it is not known whether this was kept');
  await userEvent.click(drawn);
  await waitFor(() => expect(sectionIsCut).toHaveBeenCalledTimes(2));
  const [first, second] = jest.mocked(sectionIsCut).mock.calls;
  expect(first![0]).toEqual({ runId: 'run', section: 2, fileId: null });
  expect(second![1].request).toBe(first![1].request);
});

test('a file that cannot be made says why beside its button', async () => {
  jest.mocked(makeFile).mockResolvedValue(refused('The file of one item cannot be read any more.'));
  files([]);
  await userEvent.click(screen.getByRole('button', { name: 'DXF' }));
  expect(await screen.findByRole('alert')).toHaveTextContent('cannot be read any more');
  expect(jest.mocked(makeFile).mock.calls[0]![0]).toEqual({ runId: 'run', section: 2, format: 'dxf' });
});

test.each([
  ['', 'A whole number from 0 to 24.'],
  ['2.5', 'A whole number from 0 to 24.'],
  ['25', 'A whole number from 0 to 24.'],
])('“%s” spoiled items are questioned and not sent', async (typed, message) => {
  render(<FinishForm runId="run" section={2} copies={24} counted={null} />);
  const field = screen.getByRole('textbox');
  await userEvent.clear(field);
  if (typed) await userEvent.type(field, typed);
  await userEvent.keyboard('{Enter}');
  expect(screen.getByText(message)).toBeInTheDocument();
  expect(sectionIsFinished).not.toHaveBeenCalled();
});

test('a count is kept and can be changed', async () => {
  jest.mocked(sectionIsFinished).mockResolvedValue(DONE);
  const { rerender } = render(<FinishForm runId="run" section={2} copies={24} counted={null} />);
  const field = screen.getByRole('textbox');
  await userEvent.clear(field);
  await userEvent.type(field, '3{Enter}');
  await waitFor(() => expect(sectionIsFinished).toHaveBeenCalledTimes(1));
  expect(jest.mocked(sectionIsFinished).mock.calls[0]![0]).toEqual({ runId: 'run', section: 2, spoiled: 3 });
  rerender(<FinishForm runId="run" section={2} copies={24} counted={3} />);
  await userEvent.click(await screen.findByRole('button', { name: 'Count section 2 again' }));
  expect(screen.getByRole('textbox')).toHaveValue('3');
});

test('laminate: the two lengths go out as typed, and a refusal keeps them', async () => {
  jest.mocked(laminated).mockResolvedValue(refused('A laminate stretches by a few tenths of a percent.'));
  render(<LaminateForm runId="run" from={3} nominal="440" bothEnds={false} unit="mm" />);
  const after = screen.getByLabelText('After laminating, mm');
  await userEvent.type(after, '452');
  await userEvent.click(screen.getByRole('button', { name: 'Put it into the cut' }));
  expect(await screen.findByText(/stretches by a few tenths/)).toBeInTheDocument();
  expect(after).toHaveValue('452');
});

test('the release card sends exactly what was ticked, unticked ones left out', async () => {
  jest.mocked(releaseIt).mockResolvedValue(refused('Not released yet: look at the take-up reel.'));
  const items = [
    { key: 'media', words: 'the media lies flat' },
    { key: 'reel', words: 'the take-up reel turns' },
  ];
  render(<ReleaseForm runId="run" version={4} items={items} />);
  await userEvent.click(screen.getByLabelText('the take-up reel turns'));
  await userEvent.click(screen.getByLabelText('the media lies flat'));
  await userEvent.click(screen.getByLabelText('the take-up reel turns'));
  await userEvent.click(screen.getByRole('button', { name: 'Release the run' }));
  expect(await screen.findByRole('alert')).toHaveTextContent('look at the take-up reel');
  const [given, stamp] = jest.mocked(releaseIt).mock.calls[0]!;
  expect([given, stamp.version]).toEqual([{ runId: 'run', ticked: ['media'] }, 4]);
});
