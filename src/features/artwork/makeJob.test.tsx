/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';

import type { CutLineRecipe } from '@/core/artwork';

import { MakeJob } from './MakeJob';

const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }) }));

const RECIPE: CutLineRecipe = {
  ...{ size: { widthMm: 50 }, background: 'auto', threshold: null, toleranceMm: 0.05 },
  ...{ closeMm: 1, minAreaMm2: 4, borderMm: 2, join: 'round', ignore: [] },
};
const SETUPS = [
  { id: 'one', words: 'label sheet on Desk rig', rooms: [] },
  { id: 'two', words: 'film on Roll rig', rooms: [] },
];
/** The form with whatever setup is chosen. */
function Made({ file: art, setups, chosen }: { file: File; setups: typeof SETUPS; chosen: string | null }) {
  const [setupId, onSetup] = useState(chosen ?? setups[0]?.id ?? '');
  return <MakeJob file={art} recipe={RECIPE} {...{ setups, setupId, onSetup }} />;
}
const file = new File(['x'], 'ferry badge.v2.png', { type: 'image/png' });
const user = userEvent.setup();
const answers = (status: number, body: object | null) => {
  global.fetch = jest.fn().mockResolvedValue({
    ok: status < 300,
    json: () => (body ? Promise.resolve(body) : Promise.reject(new Error('no JSON'))),
  });
};
const sent = (): FormData => jest.mocked(global.fetch).mock.lastCall![1]!.body as FormData;

test('the picture goes with its recipe, name and setup, under a number of its own; the job opens', async () => {
  answers(201, { id: 'j' });
  render(<Made file={file} setups={SETUPS} chosen="two" />);
  expect(screen.getByLabelText('Name')).toHaveValue('ferry badge.v2');
  expect(screen.getByLabelText('Printed and cut on')).toHaveDisplayValue('film on Roll rig');
  await user.selectOptions(screen.getByLabelText('Printed and cut on'), 'one');
  await user.clear(screen.getByLabelText('Name'));
  expect(screen.getByRole('button')).toBeDisabled();
  await user.type(screen.getByLabelText('Name'), 'badges');
  await user.click(screen.getByRole('button', { name: 'Lay it out' }));
  await waitFor(() => expect(push).toHaveBeenCalledWith('/jobs/sheets/j'));
  expect(JSON.parse(String(sent().get('job')))).toEqual({ setupId: 'one', name: 'badges', recipe: RECIPE });
  expect(sent().get('request')).toMatch(/^[0-9a-f-]{36}$/);
  expect((sent().get('image') as File).name).toBe('ferry badge.v2.png');
});

test.each<[string, () => void, RegExp]>([
  [
    'a refusal',
    () => answers(422, { error: { message: 'One piece needs 400 × 20 mm.' } }),
    /One piece needs/,
  ],
  ['an answer that is none', () => answers(500, null), /did not work/],
  [
    'no answer',
    () => {
      global.fetch = jest.fn().mockRejectedValue(new TypeError('away'));
    },
    /not kept twice/,
  ],
])('%s is said, and what was typed stays', async (_, how, words) => {
  how();
  render(<Made file={file} setups={SETUPS} chosen={null} />);
  await user.click(screen.getByRole('button', { name: 'Lay it out' }));
  expect(await screen.findByRole('alert')).toHaveTextContent(words);
  expect(screen.getByLabelText('Name')).toHaveValue('ferry badge.v2');
});

test('pressed again after no answer it goes out under the number it had', async () => {
  global.fetch = jest
    .fn()
    .mockRejectedValueOnce(new TypeError('away'))
    .mockResolvedValue({ ok: true, json: () => Promise.resolve({ id: 'k' }) });
  render(<Made file={file} setups={SETUPS} chosen={null} />);
  await user.type(screen.getByLabelText('Name'), ' twice');
  const press = async () => user.click(await screen.findByRole('button', { name: 'Lay it out' }));
  await press();
  await screen.findByRole('alert');
  const first = sent().get('request');
  await press();
  await waitFor(() => expect(push).toHaveBeenCalledWith('/jobs/sheets/k'));
  expect(sent().get('request')).toBe(first);
});

test('without a setup there is nothing to make it on', () => {
  const { container } = render(<Made file={file} setups={[]} chosen={null} />);
  expect(container).toBeEmptyDOMElement();
});
