import { apiFailure, guarded } from './apiError';
import { TooBusy, TooLarge } from './failure';

const from = (mode?: string): Request =>
  new Request('http://127.0.0.1:3000/api/logbook/csv', { headers: mode ? { 'sec-fetch-mode': mode } : {} });
const busy = () => Promise.reject(new TooBusy('Two are <taking> it. Come again in 30 seconds.', 30));

test('a script reads why and when to come again', async () => {
  const answer = await guarded('export', busy)(from());
  expect(answer.status).toBe(503);
  expect(answer.headers.get('retry-after')).toBe('30');
  expect(await answer.json()).toEqual({
    error: { code: 'unavailable', message: 'Two are <taking> it. Come again in 30 seconds.' },
  });
});

test('a person who followed a link reads the words, and nothing in them is taken for a tag', async () => {
  const answer = await guarded('export', busy)(from('navigate'));
  expect(answer.status).toBe(503);
  expect(answer.headers.get('content-type')).toMatch(/^text\/html/);
  expect(answer.headers.get('retry-after')).toBe('30');
  const text = await answer.text();
  expect(text).toContain('Two are &#60;taking&#62; it. Come again in 30 seconds.');
  expect(text).toContain('href="/"');
});

test('what is too large is not for later', () => {
  expect(apiFailure(new TooLarge('Split it.'), 'check', from('cors')).headers.has('retry-after')).toBe(false);
});
