/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { keepPlaceOfPrint, placePrints } from './actions';
import { PrintPlace, type PlaceTold } from './PrintPlace';

jest.mock('./actions', () => ({ keepPlaceOfPrint: jest.fn(), placePrints: jest.fn() }));

const user = userEvent.setup();
const done = { ok: true, value: null } as const;
const show = (told: Partial<PlaceTold> = {}) =>
  render(
    <PrintPlace
      job={{ id: 'j', version: 3 }}
      mark={{ name: 'near left', at: { x: 14, y: 20 } }}
      told={{ tray: 'rear', measured: 0, repeats: null, placement: null, ...told }}
      unit="mm"
    />,
  );

beforeEach(() => {
  jest.mocked(keepPlaceOfPrint).mockReset().mockResolvedValue(done);
  jest.mocked(placePrints).mockReset().mockResolvedValue(done);
});

test('both distances are kept with the version that was seen; what is no length is said and not sent', async () => {
  show();
  await user.click(screen.getByText('Where the print lies on its sheet'));
  const left = screen.getByLabelText('From the left edge, mm');
  await waitFor(() => expect(left).toBeEnabled());
  await user.type(left, 'wide');
  expect(screen.getByText(/“wide” is not a length/)).toBeInTheDocument();
  await user.click(screen.getByRole('button', { name: /^Keep it/ }));
  expect(await screen.findByText('Measure both, and type them.')).toBeInTheDocument();
  expect(keepPlaceOfPrint).not.toHaveBeenCalled();
  await user.clear(left);
  await user.type(left, '16,1');
  await user.type(screen.getByLabelText('From the near edge, mm'), '20');
  await user.click(screen.getByRole('button', { name: /^Keep it/ }));
  await waitFor(() =>
    expect(keepPlaceOfPrint).toHaveBeenCalledWith(
      { jobId: 'j', fromLeftMm: 16.1, fromNearMm: 20 },
      expect.objectContaining({ version: 3 }),
    ),
  );
  await waitFor(() => expect(left).toHaveValue(''));
});

test('what repeats is offered the other way about; moved already, it is not offered again', async () => {
  const repeats = { dxMm: 2, dyMm: -0.5, times: 4 };
  const { unmount } = show({ measured: 4, repeats });
  expect(screen.getByText(/4 prints of tray “rear” at this size measured/)).toHaveTextContent(
    '2.00 mm right and 0.50 mm back',
  );
  await user.click(
    screen.getByRole('button', { name: 'Move print files 2.00 mm left and 0.50 mm further along' }),
  );
  await waitFor(() => expect(jest.mocked(placePrints).mock.lastCall![0]).toEqual({ jobId: 'j', move: true }));
  unmount();
  show({ measured: 5, repeats, placement: { xMm: -2, yMm: 0.5 } });
  expect(screen.queryByRole('button', { name: /^Move print files/ })).toBeNull();
  await user.click(screen.getByText('Where the print lies on its sheet'));
  await user.click(screen.getByRole('button', { name: 'Stop moving print files' }));
  await waitFor(() =>
    expect(jest.mocked(placePrints).mock.lastCall![0]).toEqual({ jobId: 'j', move: false }),
  );
});
