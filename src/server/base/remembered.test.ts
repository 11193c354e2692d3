import { Remembered } from './remembered';

test('is worked out once for as long as its stamp holds, for everybody who asks meanwhile', async () => {
  const known = new Remembered<number>(2);
  let worked = 0;
  const ask = (subject: string, stamp: string) => known.of(subject, stamp, async () => (worked += 1));
  expect(await Promise.all([ask('a', '1'), ask('a', '1')])).toEqual([1, 1]);
  expect(await ask('a', '2')).toBe(2);
  // As it was before: nobody keeps what is past.
  expect(await ask('a', '1')).toBe(3);
});

test('forgets the oldest, and what failed', async () => {
  const known = new Remembered<string>(2);
  const say = (subject: string, words: string) => known.of(subject, '', async () => words);
  await say('a', 'a');
  await say('b', 'b');
  await say('c', 'c');
  expect([await say('b', 'new'), await say('c', 'new')]).toEqual(['b', 'c']);
  expect(await say('a', 'new')).toBe('new');
  await expect(known.of('d', '', async () => Promise.reject(new Error('away')))).rejects.toThrow('away');
  expect(await say('d', 'd')).toBe('d');
});
