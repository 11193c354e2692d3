import { readLine } from './readWaiting';
import { answered, entered, notHeardOf, shown, type Waiting } from './waitingLine';

const reading = (stationId: string, axis: 'across' | 'along', request: string, line = 0): Waiting => ({
  request,
  stationId,
  axis,
  pick: { line, between: false, lengths: 0 },
  coarseMm: null,
});

test('a comb that is read again waits once: the older reading leaves the line, the others keep their turn', () => {
  let line: Waiting[] = [];
  line = entered(line, reading('A1', 'across', 'r1', 1));
  line = entered(line, reading('A1', 'along', 'r2', 2));
  line = entered(line, reading('A2', 'across', 'r3', 3));
  line = entered(line, reading('A1', 'across', 'r4', 4));
  expect(line.map((w) => w.request)).toEqual(['r2', 'r3', 'r4']);
});

test('what is answered leaves by its number, not by its comb: a newer reading of the comb stays', () => {
  const line = entered(entered([], reading('A1', 'across', 'r1')), reading('A1', 'across', 'r2', 5));
  expect(answered(line, 'r1')).toEqual(line);
  expect(answered(line, 'r2')).toEqual([]);
});

test('what waits here is shown over what the log has, each comb once', () => {
  const kept = [reading('A1', 'across', 'k1', 1), reading('A2', 'along', 'k2', 2)];
  const list = shown(kept, [reading('A1', 'across', 'w1', 9)]);
  expect(list.map((r) => [r.stationId, r.axis, r.pick.line])).toEqual([
    ['A2', 'along', 2],
    ['A1', 'across', 9],
  ]);
});

test('a page that was asked for before an answer came does not forget it', () => {
  const sent = [
    { ...reading('A1', 'across', 'r1'), changes: 7 },
    { ...reading('A1', 'along', 'r2'), changes: 8 },
  ];
  expect(notHeardOf(sent, 6)).toEqual(sent);
  expect(notHeardOf(sent, 7).map((r) => r.request)).toEqual(['r2']);
  expect(notHeardOf(sent, 9)).toEqual([]);
});

test.each([
  ['nothing', null, 0],
  ['no JSON', '[{', 0],
  ['something else', '{"a":1}', 0],
  ['an entry of the version before, without a number', '[{"stationId":"A1","axis":"across"}]', 0],
  ['one good among bad', JSON.stringify([{ axis: 'up' }, reading('B1', 'along', 'r1'), 5]), 1],
])('a store with %s is read without harm', (_, text, count) => {
  expect(readLine(text)).toHaveLength(count);
});
