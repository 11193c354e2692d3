import type { Finding } from '@/core/artwork/checks';

import { checkAnswer, whereWords } from './check.view';

const finding = (severity: Finding['severity']): Finding => ({
  ...{ code: 'island', severity, where: null, message: 'A line lies inside another.' },
});
const [STOP, LOOK] = [finding('stop'), finding('look')];

test.each<[string, Finding[], boolean, RegExp]>([
  ['nothing', [], true, /^Nothing to find: print it/],
  ['nothing, without a print', [], false, /Give its print too/],
  ['only looks', [LOOK, LOOK], true, /^2 things to look at; nothing that spoils it\.$/],
  ['one that spoils it', [STOP], true, /^Do not print it yet: one thing would spoil it\.$/],
  ['both', [STOP, STOP, LOOK], true, /2 things would spoil it, and one thing to look at\.$/],
])('%s', (_, findings, withPrint, words) => {
  expect(checkAnswer(findings, withPrint)).toMatch(words);
});

test('where it is, as somebody finds it on the sheet', () => {
  const sheet = { x0: 0, y0: 0, x1: 210, y1: 297 };
  const at = (x: number, y: number) => ({ x0: x - 1, y0: y - 1, x1: x + 1, y1: y + 1 });
  expect(whereWords(at(20, 270), sheet, 'mm')).toBe(
    'far left corner, 20 mm from the left, 270 mm from the near edge',
  );
  expect(whereWords(at(101.6, 152.4), sheet, 'in')).toBe(
    'centre, 4 in from the left, 6 in from the near edge',
  );
  expect(whereWords(null, sheet, 'mm')).toBe('');
});
