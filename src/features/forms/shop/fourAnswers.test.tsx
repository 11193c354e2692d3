/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { ShopForm, type SaveShop } from './ShopForm';
import { emptyShop } from './shopFields';

jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }));
const start = jest.fn().mockResolvedValue({ ok: true, value: null });
jest.mock('../acts/actions', () => ({ startOnSetup: (...given: unknown[]) => start(...given) as unknown }));

const save = jest.fn<ReturnType<SaveShop>, Parameters<SaveShop>>();
const user = userEvent.setup();
const tap = (name: string) => user.click(screen.getByRole('radio', { name }));
const make = () => user.click(screen.getByRole('button', { name: 'Make it, print its first sheet' }));

beforeEach(() => {
  start.mockClear();
  save.mockReset().mockResolvedValue({ ok: true, value: { goTo: '/', setupId: 'new' } });
  render(
    <ShopForm
      part="new-rig"
      of={{}}
      version={0}
      initial={emptyShop('mm')}
      unit="mm"
      save={save}
      words="Add this rig"
      back={{ href: '/', words: 'Back' }}
    />,
  );
});

test('two machines and no marks are asked about, not taken silently; then one name and one tap make a rig and its sheet', async () => {
  await user.type(screen.getByLabelText('Media'), 'island card');
  await make();
  expect(await screen.findByText(/Two machines: choose which marks/)).toBeInTheDocument();
  expect(save).not.toHaveBeenCalled();
  await tap('four corners');
  expect(screen.queryByText(/Two machines/)).toBeNull();
  await make();
  await waitFor(() => expect(start).toHaveBeenCalled());
  expect(save.mock.lastCall![0]).toMatchObject({
    ...{ name: 'printer rig', printer: 'printer', cutter: 'cutter', media: 'island card' },
    ...{ mediaClass: 'film', sheetWidthMm: 210, sheetHeightMm: 297 },
    marks: { count: 4 },
  });
  expect(start.mock.lastCall![0]).toEqual({ setupId: 'new', kind: 'calibration' });
});

test('the same machine asks for no marks; a roll is a long piece; what nobody knows says what is taken', async () => {
  await user.type(screen.getByLabelText('Media'), 'x');
  await user.type(screen.getByLabelText('Printer'), 'one');
  await tap('the same machine');
  expect(screen.queryByRole('radio', { name: 'four corners' })).toBeNull();
  await tap('roll');
  expect(screen.getByText('On a roll')).toBeInTheDocument();
  await user.click(screen.getAllByRole('radio', { name: 'I do not know' }).at(-1)!);
  expect(screen.getByText(/Taken: film/)).toBeInTheDocument();
  await make();
  await waitFor(() => expect(save).toHaveBeenCalled());
  expect(save.mock.lastCall![0]).toMatchObject({
    ...{ printer: 'one', cutter: 'one', marks: null, sheetWidthMm: 600, sheetHeightMm: 1200 },
  });
});

test('more along is four marks and a distance; none is an answer', async () => {
  await user.type(screen.getByLabelText('Media'), 'x');
  await tap('more along');
  await make();
  await waitFor(() => expect(save).toHaveBeenCalled());
  expect(save.mock.lastCall![0]).toMatchObject({ marks: { count: 4, everyMm: 400 } });
  await tap('none');
  await make();
  await waitFor(() => expect(save).toHaveBeenCalledTimes(2));
  expect(save.mock.lastCall![0]).toMatchObject({ marks: null });
});
