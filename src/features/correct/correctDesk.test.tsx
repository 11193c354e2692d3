/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { correctDaily, SHEET_FRAME } from '@/core/daily';
import { changedOver } from '@/features/forms/acts/actions';
import { holdFiles } from '@/features/forms/drop/heldFiles';
import type { DailyAnswer } from '@/server/files/dailyFile';
import { plainSetting, plainSetup } from '@test/setups';

import { deskSetup } from './correct.view';
import { CorrectDesk } from './CorrectDesk';

/* The desk: files go out one by one, each answer stands by its file, and what is pressed says what was meant. */

const replace = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ replace, push: jest.fn(), refresh: jest.fn() }) }));
jest.mock('@/features/forms/acts/actions', () => ({ changedOver: jest.fn() }));

const SQUARE =
  '<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="300mm" viewBox="0 0 300 300"><path d="M10 10H200V200H10Z"/></svg>';
const file = (name: string) => new File([SQUARE], name, { type: 'image/svg+xml' });

const SETUP = plainSetup({
  fileFrame: SHEET_FRAME,
  settings: [plainSetting({ id: 'x', name: 'Offset X', value: 0.85, wanted: 0.85 })],
});
const OTHER = plainSetup({ id: 'foil', media: 'silver foil', fileFrame: null });

const ANSWER = ((): DailyAnswer => {
  const T = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.4, ty: 0 };
  const done = correctDaily(SQUARE, { ...SETUP, frame: SHEET_FRAME, fileTransform: T }, false);
  if (!done.ok) throw new Error(done.refusal.code);
  return { ...done.value, fileId: 'f', fileName: 'tag-for-vinyl.svg', changed: true, mustShow: [] };
})();

interface Asked {
  readonly body: FormData;
  readonly answer: (status: number, json: unknown) => void;
}
let asked: Asked[] = [];
beforeEach(() => {
  asked = [];
  replace.mockReset();
  document.cookie = 'who=KT';
  globalThis.fetch = ((_: string, { body, signal }: { body: FormData; signal: AbortSignal }) =>
    new Promise((resolve, reject) => {
      signal.addEventListener('abort', () => reject(new DOMException('aborted', 'AbortError')));
      asked.push({
        body,
        answer: (status, json) =>
          resolve({ ok: status < 400, json: () => Promise.resolve(json) } as Response),
      });
    })) as typeof fetch;
  URL.createObjectURL = () => 'blob:1';
});

const desk = (setup = SETUP) =>
  render(
    <CorrectDesk
      setups={[...new Set([setup, OTHER])].map((s) => deskSetup(s, 'mm'))}
      chosen={setup.id}
      unit="mm"
    />,
  );
const give = async (...names: string[]) => {
  await userEvent.setup().upload(
    screen.getByLabelText('Cut files'),
    names.map((n) => file(n)),
  );
};
const refusal = (code: string, message: string) => ({ error: { code, message } });

test('two go out at once, for the chosen setup, and each comes back to its own name', async () => {
  desk();
  await give('a.svg', 'b.svg', 'c.svg');
  await waitFor(() => expect(asked).toHaveLength(2));
  expect(['setup', 'frame', 'again', 'answer'].map((n) => asked[0]!.body.get(n))).toEqual([
    ...['setup', 'setup', 'false', 'whole'],
  ]);
  asked[0]!.answer(200, ANSWER);
  await waitFor(() => expect(asked).toHaveLength(3));
  asked[1]!.answer(422, refusal('unreadable-file', 'It is empty.'));
  asked[2]!.answer(200, ANSWER);
  expect(await screen.findByRole('heading', { name: '2 of 3 corrected, 1 not taken' })).toBeVisible();
  const b = screen.getByRole('region', { name: 'b.svg' });
  expect(within(b).getByRole('alert')).toHaveTextContent('It is empty.');
  const a = screen.getByRole('region', { name: 'a.svg' });
  expect(within(a).getByRole('link', { name: 'Save tag-for-vinyl.svg' })).toHaveAttribute('href', 'blob:1');
  expect(a).toHaveTextContent('Its farthest point moves 0.40 mm. Direction: as set for this rig.');
  await userEvent.setup().click(screen.getByRole('button', { name: 'Take off the list: b.svg' }));
  expect(screen.queryByRole('region', { name: 'b.svg' })).toBeNull();
});

test('what was dropped on another page is taken at once', async () => {
  holdFiles([file('held.svg')]);
  desk();
  await waitFor(() => expect(asked).toHaveLength(1));
  expect((asked[0]!.body.get('file') as File).name).toBe('held.svg');
});

test.each([
  ['corrected-already', 'Correct it once more all the same', 'again', 'true'],
  ['where-it-lies', /^Its x runs right/, 'frame', 'sheet'],
  ['away', 'Try again', 'again', 'false'],
])('%s: pressed, it goes out again with what was said', async (code, button, field, value) => {
  desk();
  await give('a.svg');
  await waitFor(() => expect(asked).toHaveLength(1));
  asked[0]!.answer(409, refusal(code, 'Not so.'));
  await userEvent.setup().click(await screen.findByRole('button', { name: button }));
  await waitFor(() => expect(asked).toHaveLength(2));
  expect(asked[1]!.body.get(field)).toBe(value);
  expect(asked[1]!.body.get('request')).not.toBe(asked[0]!.body.get('request'));
});

test('cancelled on the way it leaves the list, and the next one goes', async () => {
  desk();
  await give('a.svg');
  await waitFor(() => expect(asked).toHaveLength(1));
  await userEvent.setup().click(screen.getByRole('button', { name: 'Cancel: a.svg' }));
  expect(screen.queryByRole('region', { name: 'a.svg' })).toBeNull();
  await give('b.svg');
  await waitFor(() => expect(asked).toHaveLength(2));
});

test('another setup is another address; one whose rig was never told says so', async () => {
  desk();
  await userEvent.setup().selectOptions(screen.getByLabelText('For'), 'foil');
  expect(replace).toHaveBeenCalledWith('/correct?setup=foil');
  desk(OTHER);
  expect(screen.getByText(/Not told yet/)).toBeVisible();
});

test('a machine at other figures: what it must show comes first, and yes is written down with what was seen', async () => {
  jest.mocked(changedOver).mockResolvedValue({ ok: true, value: null });
  const setting = plainSetting({ id: 'x', name: 'Offset X', value: 0.4, wanted: 0.85 });
  desk(plainSetup({ fileFrame: SHEET_FRAME, settings: [setting] }));
  const stop = screen.getByRole('region', { name: 'What the machine must show' });
  expect(stop).toHaveTextContent('must show Offset X 0.85 mm');
  expect(stop).toHaveTextContent('it shows Offset X 0.40');
  await userEvent.setup().click(within(stop).getByRole('button', { name: 'It shows them now' }));
  expect(changedOver).toHaveBeenCalledWith(
    { setupId: 'setup', wanted: { x: 0.85 }, found: {} },
    expect.objectContaining({ request: expect.any(String) }),
  );
});

test('layers that a DXF hides are named, and one press cuts one of them all the same', async () => {
  desk();
  await userEvent.upload(screen.getByLabelText(/cut files/i), file('tag.svg'));
  await waitFor(() => expect(asked).toHaveLength(1));
  const leftUncut = [
    { layer: 'guides', why: 'layer-off', lines: 2 },
    { layer: 'guides', why: 'invisible', lines: 1 },
  ] as const;
  asked[0]!.answer(200, { ...ANSWER, report: { ...ANSWER.report, from: 'dxf', leftUncut } });
  await userEvent.click(await screen.findByRole('button', { name: 'Cut “guides” all the same' }));
  await waitFor(() => expect(asked).toHaveLength(2));
  expect(asked[1]!.body.getAll('cutAll')).toEqual(['guides']);
  expect(asked[1]!.body.get('request')).not.toBe(asked[0]!.body.get('request'));
  asked[1]!.answer(200, ANSWER);
  await userEvent.click(await screen.findByRole('button', { name: 'Undo: leave “guides” uncut' }));
  await waitFor(() => expect(asked).toHaveLength(3));
  expect(asked[2]!.body.getAll('cutAll')).toEqual([]);
});
