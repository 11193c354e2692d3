/* /dev/full is a device that takes nothing: every write ends as on a full disk (full(4) of the Linux manual). */

test('a log that cannot be written stops nobody, and does not grow in memory', async () => {
  process.env.RED_PLUMB_LOG = '/dev/full';
  process.env.RED_PLUMB_LOG_LEVEL = 'info';
  const { log } = await import('./log');
  expect(log.isLevelEnabled('error')).toBe(true);
  const before = process.memoryUsage().heapUsed;
  for (let i = 0; i < 20_000; i += 1) log.error({ err: new Error('x'.repeat(1000)) }, 'bug');
  expect((process.memoryUsage().heapUsed - before) / 1e6).toBeLessThan(30);
});
