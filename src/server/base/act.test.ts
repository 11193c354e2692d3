import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept } from '@/core/outcome';
import { acts } from '@/db/schema';
import { freshDeps } from '@test/database';

import { addRig } from '@/server/rigs/writeRig';
import { getSession } from '@/server/sessions/loadSession';
import { sessionStep } from '@/server/sessions/step';
import { startSession } from '@/server/sessions/startSession';
import { ROLL_DRAFT } from '@test/setups';

import { keep } from './act';
import { contentHash } from './contentHash';
import { idSchema } from './shapes';
import { stampSchema, useCase } from './useCase';

/* A request number stands for one act on one subject with one content: nothing else is answered under it. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('act');
});
afterAll(() => deps.close());

const A = '00000000-0000-4000-8000-00000000000a';
const B = '00000000-0000-4000-8000-00000000000b';

async function sent(request: string, act: string, subjectId: string, asked: string | undefined) {
  let done = 0;
  const answer = await keep({ ...deps, asked }, 'KT', { act, subjectId, request }, () => {
    done += 1;
    return Promise.resolve(accept({ figure: Math.random() }));
  });
  return { answer, done };
}

test.each([
  ['the same', 'cut', A, contentHash({ rows: 3 }), true],
  ['the same from before contents were kept', 'cut', A, undefined, true],
  ['another act', 'uncut', A, contentHash({ rows: 3 }), false],
  ['another subject', 'cut', B, contentHash({ rows: 3 }), false],
  ['another content', 'cut', A, contentHash({ rows: 4 }), false],
])('%s: answered again or refused in words, and done once', async (_, act, subject, asked, again) => {
  const request = crypto.randomUUID();
  const first = await sent(request, 'cut', A, contentHash({ rows: 3 }));
  const second = await sent(request, act, subject, asked);
  expect([first.done, second.done]).toEqual([1, 0]);
  if (again) expect(second.answer).toEqual(first.answer);
  else
    expect(second.answer).toMatchObject({
      refusal: { code: 'stale', message: expect.stringContaining('something else') },
    });
});

test.each([
  [{ a: 1, b: [2, null] }, { b: [2, null], a: 1, c: undefined }, true],
  [{ a: '1' }, { a: 1 }, false],
  [['ab', 'c'], ['a', 'bc'], false],
  [[['a'], 'b'], [['a', 'b']], false],
  [{ a: {} }, { a: [] }, false],
  [new Uint8Array([1, 2]), new Uint8Array([1, 3]), false],
  [new Uint8Array([1, 2]), [1, 2], false],
  [{ a: NaN }, { a: null }, true],
])('%j and %j are told apart as they should be', (one, other, alike) => {
  expect(contentHash(one) === contentHash(other)).toBe(alike);
});

test('a step on a session that was seen in an older version is refused, in the newest it is done', async () => {
  const rig = await addRig(deps, 'KT', ROLL_DRAFT);
  if (!rig.ok) throw new Error('rig');
  const started = await startSession(deps, 'KT', {
    setupId: rig.value.setupId,
    kind: 'calibration',
    unit: 'mm',
  });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  const { sessionId } = started.value;
  const look = sessionStep(idSchema, { act: 'look', allowed: ['print'] }, async () => accept(null));
  const step = (version: number) => look(deps, 'KT', sessionId, { version });
  const { version } = (await getSession(deps, sessionId))!;
  expect((await step(version)).ok).toBe(true);
  for (const other of [version, version + 2, version + 1 - 2])
    if (other > 0) expect(await step(other)).toMatchObject({ refusal: { code: 'stale' } });
  expect((await step(version + 1)).ok).toBe(true);
});

test('figures that were asked about are kept with their answers, beside the act that they went into', async () => {
  const sure = [
    { field: 'along', typed: '12', why: '12 mm is 24 times what is allowed here.', meant: '1.2' },
  ];
  const request = crypto.randomUUID();
  const noted = useCase(z.object({ note: z.string() }), { act: 'note it' }, () =>
    Promise.resolve(accept(null)),
  );
  const done = await noted(deps, 'KT', { note: 'n' }, stampSchema.parse({ request, sure }));
  expect(done.ok).toBe(true);
  const [row] = await deps.db.select().from(acts).where(eq(acts.request, request));
  expect(row).toMatchObject({ act: 'note it', by: 'KT', sure });
  expect(stampSchema.safeParse({ sure: [{ field: 'along' }] }).success).toBe(false);
});
