/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { cutSheetJobAgain } from './actions';
import { BeforeLoading } from './BeforeLoading';

jest.mock('./actions', () => ({ cutSheetJobAgain: jest.fn() }));

const BETWEEN = { from: 'near left', to: 'far right', mm: 300, leading: { x: 14, y: 14 } };
const show = (more: object = {}) =>
  render(
    <BeforeLoading
      {...{
        job: { id: 'j', version: 3 },
        marked: true,
        between: BETWEEN,
        face: 'label side down',
        unit: 'mm',
      }}
      {...{ mayCut: true, follows: false, ...more }}
    />,
  );
const user = userEvent.setup();
async function measured(text: string): Promise<void> {
  const field = screen.getByLabelText(/near left mark to far right mark/);
  await waitFor(() => expect(field).toBeEnabled());
  await user.clear(field);
  await user.type(field, text);
}

test.each([
  ['300.2', /As large as it should be/],
  ['11.8125 in', /As large as it should be/],
  ['301.5', /0\.50 % too large: it was scaled\. Print it again at 100 %/],
  ['298', /0\.67 % too small/],
  ['long', /“long” is not a length/],
])('%s by the rule: %p', async (text, words) => {
  show();
  await measured(text);
  expect(screen.getByRole('status')).toHaveTextContent(words);
  expect(screen.getByLabelText(/near left mark/)).toHaveValue(text);
});

test('a scaled print is cut with a file of its own, with the version that was seen', async () => {
  jest.mocked(cutSheetJobAgain).mockResolvedValue({ ok: true, value: null });
  show();
  await measured('301,5');
  await user.click(screen.getByRole('button', { name: 'Cut file for this print' }));
  expect(cutSheetJobAgain).toHaveBeenCalledWith(
    { jobId: 'j', correction: 'standing', measuredMm: 301.5 },
    expect.objectContaining({ version: 3 }),
  );
});

test('a machine that follows by its marks needs none; a closed job makes none; one mark tells no size', async () => {
  const { unmount } = show({ follows: true });
  await measured('301.5');
  expect(screen.getByRole('status')).toHaveTextContent(/The machine follows it by its marks/);
  expect(screen.queryByRole('button')).toBeNull();
  unmount();
  const closed = show({ mayCut: false });
  await measured('301.5');
  expect(screen.queryByRole('button')).toBeNull();
  closed.unmount();
  show({ between: null, marked: false });
  expect(screen.queryByText(/every mark is whole/)).toBeNull();
  expect(screen.queryByRole('status')).toBeNull();
  expect(screen.getByLabelText('printed on the right face: label side down')).not.toBeChecked();
});
