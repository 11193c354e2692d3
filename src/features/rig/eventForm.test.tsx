/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import type { WatchedAxis } from '@/core/control';

import { noteEvent } from './actions';
import { EventForm } from './EventForm';
import { WatchPanel } from './WatchPanel';

jest.mock('./actions', () => ({ noteEvent: jest.fn() }));

const SETUPS = [
  { id: 'v', media: 'gloss vinyl' },
  { id: 'f', media: 'clear film' },
];
const sent = () => jest.mocked(noteEvent).mock.lastCall?.[0];
const user = userEvent.setup();

beforeEach(() => {
  jest.mocked(noteEvent).mockReset().mockResolvedValue({ ok: true, value: null });
});

test.each([
  ['asks after it', ['moved'], 'Noted. The bench asks for a quick check now.'],
  ['does not', ['firmware'], 'Noted.'],
] as const)(
  'what happened is noted, and what follows is said where the rig %s',
  async (_, asksAfter, words) => {
    render(<EventForm setups={SETUPS} asksAfter={asksAfter} />);
    await user.type(screen.getByLabelText('Note'), 'to the window');
    await user.click(screen.getByRole('button', { name: 'Note it' }));
    expect(await screen.findByText(words)).toBeInTheDocument();
    expect(sent()).toEqual({ setupId: 'v', kind: 'moved', note: 'to the window' });
    expect(screen.getByLabelText('Note')).toHaveValue('');
  },
);

test('what concerns one medium asks which', async () => {
  render(<EventForm setups={SETUPS} asksAfter={[]} />);
  expect(screen.queryByLabelText('Of')).not.toBeInTheDocument();
  await user.selectOptions(screen.getByLabelText('What'), 'media-change');
  await user.selectOptions(screen.getByLabelText('Of'), 'clear film');
  await user.click(screen.getByRole('button', { name: 'Note it' }));
  expect(sent()).toMatchObject({ setupId: 'f', kind: 'media-change' });
});

test('what was refused is said and stays typed', async () => {
  jest.mocked(noteEvent).mockResolvedValue({
    ...{ ok: false, said: 'refused', message: 'No.' },
    fields: { note: 'At most 250 characters.' },
  });
  render(<EventForm setups={SETUPS} asksAfter={[]} />);
  await user.type(screen.getByLabelText('Note'), 'long');
  await user.click(screen.getByRole('button', { name: 'Note it' }));
  expect(await screen.findByText('At most 250 characters.')).toBeInTheDocument();
  expect(screen.getByLabelText('Note')).toHaveValue('long');
});

const day = (n: number): Date => new Date(Date.UTC(2026, 3, n, 9));
const loads = [0.01, 0.12, 0.2].map((mm, i) => ({ at: day(1 + 7 * i), mm, anew: null }));
const chart = {
  ...{ centre: 0, sigma: 0.03, lower: [-0.04, -0.05, -0.06], upper: [0.04, 0.05, 0.06] },
  ...{ statistic: [0.002, 0.03, 0.06], signals: [2] },
};

test('the watch draws each axis that it can tell, says what left, and has the same as a table', () => {
  const axes: WatchedAxis[] = [
    { axis: 'across', watch: null },
    { axis: 'along', watch: { loads, chart, since: day(8), byMm: 0.16 } },
  ];
  const { container } = render(<WatchPanel media="gloss vinyl" axes={axes} unit="mm" />);
  expect(
    screen.getByText(/^Since 8 Apr 2026 its loads have landed 0\.16 mm further along on average/),
  ).toHaveClass('notice');
  expect(container.querySelectorAll('circle')).toHaveLength(3);
  expect(container.querySelectorAll('circle[fill="var(--rp-plumb)"]')).toHaveLength(1);
  expect(container.querySelectorAll('tbody tr')).toHaveLength(3);
});

test('with too little to watch there is a sentence and no picture', () => {
  const axes: WatchedAxis[] = [
    { axis: 'across', watch: null },
    { axis: 'along', watch: null },
  ];
  render(<WatchPanel media="gloss vinyl" axes={axes} unit="mm" />);
  expect(screen.getByText(/^Too few loads/)).toBeInTheDocument();
  expect(screen.queryByRole('img')).not.toBeInTheDocument();
});
