/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { Fold } from './Fold';

const fold = (more: { open?: boolean; anchor?: string } = {}) => (
  <Fold name="bars" words="Check bars" usual="if you doubt the print" {...more}>
    measure them
  </Fold>
);
const details = () => screen.getByText('Check bars').closest('details')!;
const press = () => userEvent.setup().click(screen.getByText('Check bars'));

beforeEach(() => {
  localStorage.clear();
  window.location.hash = '';
});

test('closed it says what is usual; what somebody opened stays open, what somebody closed stays closed', async () => {
  const { unmount } = render(fold());
  expect(details()).not.toHaveAttribute('open');
  expect(details()).toHaveTextContent('if you doubt the print');
  await press();
  unmount();
  const again = render(fold());
  await waitFor(() => expect(details()).toHaveAttribute('open'));
  await press();
  again.unmount();
  render(fold());
  expect(details()).not.toHaveAttribute('open');
});

test('opened by what is wrong in it, it is not shut once that is right, and not remembered', async () => {
  const { rerender, unmount } = render(fold());
  rerender(fold({ open: true }));
  await waitFor(() => expect(details()).toHaveAttribute('open'));
  rerender(fold({ open: false }));
  expect(details()).toHaveAttribute('open');
  unmount();
  render(fold());
  expect(details()).not.toHaveAttribute('open');
});

test('a link that leads to it finds it open', async () => {
  window.HTMLElement.prototype.scrollIntoView = jest.fn();
  window.location.hash = '#bars';
  render(fold({ anchor: 'bars' }));
  await waitFor(() => expect(details()).toHaveAttribute('open'));
});

test('the press that makes the page run is not undone by what was remembered', async () => {
  localStorage.setItem('red-plumb-open-bars', '1');
  render(fold());
  // Pressed before the page came round to open it by itself.
  details().querySelector('summary')!.click();
  await waitFor(() => expect(details()).toHaveAttribute('open'));
  await new Promise((done) => setTimeout(done, 20));
  expect(details()).toHaveAttribute('open');
  expect(localStorage.getItem('red-plumb-open-bars')).toBe('1');
});
