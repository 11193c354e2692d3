/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { correctFile, type CorrectedFile } from '@/core/drawing/file';
import { affineMap } from '@/core/geometry';

import { FileDrop } from './FileDrop';

/* A file dropped on Correct: one is made, by the server, and that one is handed over. */

const SQUARE =
  '<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="30mm" viewBox="0 0 30 30"><path d="M10 10H20V20H10Z"/></svg>';
const MADE = (() => {
  const made = correctFile(SQUARE, affineMap({ a11: 1, a12: 0, a21: 0, a22: 1, tx: 1, ty: -2 }), null);
  if (!made.ok) throw new Error(made.refusal.code);
  return made.value;
})();

interface Asked {
  readonly body: FormData;
  readonly signal: AbortSignal;
  readonly answer: (status: number, json: unknown) => void;
}
let asked: Asked[] = [];
let blobs: Blob[] = [];
beforeEach(() => {
  [asked, blobs] = [[], []];
  // As the browser has it: aborted, a request fails.
  globalThis.fetch = ((_: string, init: { body: FormData; signal: AbortSignal }) =>
    new Promise((resolve, reject) => {
      init.signal.addEventListener('abort', () => reject(new DOMException('aborted', 'AbortError')));
      asked.push({
        ...init,
        answer: (status, json) =>
          resolve({ ok: status < 400, json: () => Promise.resolve(json) } as Response),
      });
    })) as typeof fetch;
  URL.createObjectURL = (blob: Blob) => `blob:${blobs.push(blob)}`;
});

const drop = () =>
  render(<FileDrop correctionId="c-1" restOnly={false} sheetLabel="0021" unit="mm" />) &&
  screen.getByLabelText(/Drop a cut file/);
const file = (name: string) => new File([SQUARE], name, { type: 'image/svg+xml' });

test('the stored correction is named, and what comes back is what is saved, with its figures', async () => {
  const user = userEvent.setup();
  const input = drop();
  await user.selectOptions(screen.getByLabelText('Give it back as'), 'svg');
  await user.upload(input, file('tags.svg'));
  expect(screen.getByRole('status')).toHaveTextContent('Correcting tags.svg');
  const { body } = asked[0]!;
  expect(['correction', 'rest', 'answer', 'to'].map((name) => body.get(name))).toEqual([
    ...['c-1', 'false', 'whole', 'svg'],
  ]);
  asked[0]!.answer(200, MADE satisfies CorrectedFile);
  const link = await screen.findByRole('link', { name: 'Save tags-corrected-0021.svg' });
  expect(link).toHaveAttribute('href', 'blob:1');
  expect(blobs[0]!.size).toBe(new Blob([MADE.content]).size);
  expect(screen.getByRole('row', { name: /farthest move 2\.24 mm/ })).toBeInTheDocument();
  expect(asked).toHaveLength(1);
});

test.each([
  [
    422,
    { error: { message: 'This is not a readable SVG file.' } },
    /tags\.svg: This is not a readable SVG file/,
  ],
  [503, {}, /The server does not answer; drop it again in a moment/],
])('an answer of %i is said by the file’s name, and nothing is handed over', async (status, json, words) => {
  const user = userEvent.setup();
  await user.upload(drop(), file('tags.svg'));
  asked[0]!.answer(status, json);
  expect(await screen.findByRole('alert')).toHaveTextContent(words);
  expect(screen.queryByRole('link')).not.toBeInTheDocument();
});

test('cancelled it is called off at the server and nothing is said of it', async () => {
  const user = userEvent.setup();
  await user.upload(drop(), file('long.svg'));
  await user.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(asked[0]!.signal.aborted).toBe(true);
  await waitFor(() => expect(screen.queryByText(/long\.svg/)).not.toBeInTheDocument());
});

test('of two dropped one after the other the second is handed over, the first called off', async () => {
  const user = userEvent.setup();
  const input = drop();
  await user.upload(input, file('first.svg'));
  await user.upload(input, file('second.svg'));
  expect(asked.map((a) => a.signal.aborted)).toEqual([true, false]);
  asked[1]!.answer(200, MADE);
  expect(await screen.findByRole('link', { name: /^Save second/ })).toBeInTheDocument();
  expect(screen.queryByRole('alert')).not.toBeInTheDocument();
});
