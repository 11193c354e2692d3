import { TooBusy, TooLarge } from '@/server/base/failure';
import { compiled } from '@test/compiled';

/* Drawing in processes of their own, from the compiled file: whatever a drawing does, the next one is drawn. */

let made: ReturnType<typeof compiled>;
let drawing: typeof import('./pool').drawing;
beforeAll(async () => {
  made = compiled();
  process.env.RED_PLUMB_DRAWING = made.fileOf('drawing.mjs');
  process.env.RED_PLUMB_DRAWING_SECONDS = '2';
  ({ drawing } = await import('./pool'));
});
afterAll(() => {
  delete process.env.RED_PLUMB_DRAWING;
  made.remove();
});

const svg = (body: string, side = 60): Uint8Array =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${side}mm" height="${side}mm" viewBox="0 0 60 60">${body}</svg>`,
  );
const DISC = svg('<circle cx="30" cy="30" r="20"/>', 10);
/** Soft shadows over a whole poster, one in another: a kilobyte of text, minutes of work. */
const SLOW = svg(
  `<filter id="f" x="-1" y="-1" width="3" height="3">${'<feGaussianBlur stdDeviation="9"/><feTurbulence baseFrequency=".9" numOctaves="9"/>'.repeat(12)}</filter>${'<rect width="60" height="60" filter="url(#f)"/>'.repeat(12)}`,
  1000,
);

const children = (): number[] => made.children('drawing.mjs');

const draws = async (): Promise<void> => {
  const done = await drawing('asPicture', [DISC]);
  expect(done).toMatchObject({ ok: true });
  if (!done.ok) return;
  expect(await drawing('pictureHead', [done.value])).toMatchObject({
    ok: true,
    value: { width: 236, height: 236 },
  });
};

test('what is drawn in a process is what is drawn here', async () => {
  const there = await drawing('asPicture', [DISC]);
  const { asPicture } = await import('@/server/artwork/vector');
  const here = await asPicture(DISC);
  expect(there.ok && here.ok && Buffer.from(there.value).equals(Buffer.from(here.value))).toBe(true);
  expect(await drawing('asPicture', [Buffer.from('no picture')])).toMatchObject({
    refusal: { code: 'not-an-image' },
  });
});

test('a drawing that takes too long is ended in words, and the next one is drawn', async () => {
  await expect(drawing('asPicture', [SLOW])).rejects.toMatchObject({
    words: expect.stringMatching(/longer than 2 seconds.*soft shadows/),
  });
  await draws();
});

test('who goes away takes the work along', async () => {
  const went = new AbortController();
  const slow = drawing('asPicture', [SLOW], went.signal);
  await new Promise((done) => setTimeout(done, 600));
  const before = children();
  went.abort(new Error('away'));
  await expect(slow).rejects.toThrow('away');
  await new Promise((done) => setTimeout(done, 200));
  expect(children().length).toBeLessThan(before.length + 1);
  await draws();
});

test('a process that dies takes its drawing with it and no other', async () => {
  const slow = drawing('asPicture', [SLOW]);
  const outcome = expect(slow).rejects.toBeInstanceOf(TooLarge);
  await new Promise((done) => setTimeout(done, 500));
  for (const pid of children()) process.kill(pid, 'SIGKILL');
  await outcome;
  await draws();
});

test('forty of the worst at once: this thread is held up by none, the ones too many are told to come again', async () => {
  let worst = 0;
  let last = Date.now();
  const pulse = setInterval(() => {
    worst = Math.max(worst, Date.now() - last - 20);
    last = Date.now();
  }, 20);
  const went = new AbortController();
  const all = Promise.allSettled(Array.from({ length: 40 }, () => drawing('asPicture', [SLOW], went.signal)));
  await new Promise((done) => setTimeout(done, 5000));
  went.abort(new Error('away'));
  clearInterval(pulse);
  const reasons = (await all).map((one) => (one as PromiseRejectedResult).reason as Error);
  const told = (kind: typeof TooBusy | typeof TooLarge): number =>
    reasons.filter((r) => r instanceof kind).length;
  // Two at a time, thirty-two wait, the others are told at once.
  expect([told(TooBusy), told(TooLarge) >= 2]).toEqual([6, true]);
  expect(worst).toBeLessThan(1500);
  expect(children().length).toBeLessThanOrEqual(2);
  await draws();
});
