/** @jest-environment jsdom */
import '@test/dom';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { proofSheet } from '@test/sheets';

import { keepOther } from '../actions';
import { RingDesk, type RingToRead } from './RingDesk';

jest.mock('../actions', () => ({ keepOther: jest.fn() }));

const SHEET = proofSheet({ columns: 2, rows: 1, secondSet: false, rings: { stepMm: 0.1, half: 4 } });
const ROWS: RingToRead[] = SHEET.stations.flatMap(({ id, rings }) =>
  rings!.map((row) => ({ stationId: id, row, kept: null, simulatedMm: null })),
);
const user = userEvent.setup();
async function keep(): Promise<void> {
  const button = screen.getByRole('button', { name: 'Keep it, next row' });
  await waitFor(() => expect(button).toBeEnabled());
  await user.click(button);
}
const slider = () => screen.getByLabelText('The even ring');
const set = (ring: number) => fireEvent.change(slider(), { target: { value: String(ring) } });
const show = (rows: readonly RingToRead[] = ROWS, unit: 'mm' | 'in' = 'mm', keys = false) =>
  render(<RingDesk passId="p" rows={rows} keys={keys} unit={unit} />);

beforeEach(() => {
  jest
    .mocked(keepOther)
    .mockReset()
    .mockResolvedValue({ ok: true, value: { changes: 1, kept: 1, doubts: [] } });
});

test('the ring that is chosen says the offset in words, and is kept for its own row; the next row comes', async () => {
  show();
  const { phaseMm } = ROWS[0]!.row;
  set(3);
  const mm = 0.3 - phaseMm;
  expect(screen.getByTestId('ring-says')).toHaveTextContent(`${mm.toFixed(2)} mm right`);
  await keep();
  expect(await screen.findByText('A1 across kept.')).toBeInTheDocument();
  expect(keepOther).toHaveBeenCalledWith(
    { way: 'rings', passId: 'p', stationId: 'A1', axis: 'across', ring: 3 },
    expect.anything(),
  );
  expect(screen.getByLabelText('Row')).toHaveDisplayValue('A1 along');
  expect(slider()).toHaveValue('0');
});

test('half rings by the buttons, never beyond the row; between two is said as such', async () => {
  show();
  await user.click(screen.getByRole('button', { name: 'Half a ring on' }));
  expect(slider()).toHaveAttribute('aria-valuetext', expect.stringMatching(/^between .* and .*: /));
  set(4);
  await user.click(screen.getByRole('button', { name: 'Half a ring on' }));
  expect(slider()).toHaveValue('4');
});

test('rows that were read say so and come back as they were kept; the first open one is on the desk', () => {
  show([{ ...ROWS[0]!, kept: -2 }, ...ROWS.slice(1)], 'in');
  expect(screen.getByText(/1 of 4 rows read/)).toBeInTheDocument();
  expect(screen.getByLabelText('Row')).toHaveDisplayValue('A1 along');
  expect(screen.getByRole('option', { name: /^A1 across: −/ })).toBeInTheDocument();
  fireEvent.change(screen.getByLabelText('Row'), { target: { value: '0' } });
  expect(slider()).toHaveValue('-2');
});

test('a doubt and a refusal are said; a refusal stays on its row', async () => {
  jest.mocked(keepOther).mockResolvedValueOnce({
    ok: true,
    value: {
      changes: 1,
      kept: 1,
      doubts: [{ station: 'R-A1', code: 'end-of-row', message: 'Read the comb there too.' }],
    },
  });
  show();
  await keep();
  expect(await screen.findByText('A1 across kept. Read the comb there too.')).toBeInTheDocument();
  jest
    .mocked(keepOther)
    .mockResolvedValueOnce({ ok: false, said: 'stale', message: 'This set is closed.', fields: {} });
  await keep();
  expect(await screen.findByText('This set is closed.')).toBeInTheDocument();
  expect(screen.getByLabelText('Row')).toHaveDisplayValue('A1 along');
});

test('the keys are its own where rings were chosen, and nobody’s else', async () => {
  const { unmount } = show(ROWS, 'mm', false);
  await waitFor(() => expect(slider()).toBeEnabled());
  await user.keyboard('{ArrowRight}{ArrowRight}{Enter}');
  expect(slider()).toHaveValue('0');
  expect(keepOther).not.toHaveBeenCalled();
  unmount();
  show(ROWS, 'mm', true);
  await waitFor(() => expect(slider()).toBeEnabled());
  await user.keyboard('{ArrowRight}{ArrowRight}{ArrowRight}{ArrowLeft}{Enter}');
  await waitFor(() => expect(keepOther).toHaveBeenCalledTimes(1));
  expect(jest.mocked(keepOther).mock.lastCall![0]).toMatchObject({
    stationId: 'A1',
    axis: 'across',
    ring: 1,
  });
});

test('on a rig just met the coarse cross comes first: near it leads to the rings, far it is kept by itself', async () => {
  render(<RingDesk passId="p" rows={ROWS} keys coarse unit="mm" />);
  const more = screen.getByRole('button', { name: 'across: half a millimetre more' });
  await waitFor(() => expect(more).toBeEnabled());
  // The keys of the rings keep nothing while they are not asked for.
  await user.keyboard('{Enter}');
  expect(keepOther).not.toHaveBeenCalled();
  await user.click(more);
  await user.click(screen.getByRole('button', { name: 'Keep it: further than the rings reach' }));
  expect(await screen.findByText(/The rings reach 0\.40 mm: see what this says/)).toBeInTheDocument();
  expect(keepOther).toHaveBeenCalledWith(
    { way: 'cross', passId: 'p', stationId: 'A1', across: 0.5, along: 0 },
    expect.anything(),
  );
  const less = screen.getByRole('button', { name: 'across: half a millimetre less' });
  await waitFor(() => expect(less).toBeEnabled());
  await user.click(less);
  await user.click(screen.getByRole('button', { name: 'On to the rings' }));
  expect(slider()).toBeInTheDocument();
});
