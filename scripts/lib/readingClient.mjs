// Keeps readings over HTTP as the page does: for scripts that do it while something else goes wrong.
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const ANSWER_WITHIN_MS = 10_000;

/** The number under which the build in `dist` has the action that keeps a reading. */
export function keepReadingAction(dist) {
  const manifest = JSON.parse(readFileSync(join(dist, 'server', 'server-reference-manifest.json'), 'utf8'));
  return Object.entries(manifest.node).find(([, made]) => made.exportedName === 'keepReading')[0];
}

/** A reading of a comb (as `bench/killsSetup.ts` prints them), with a number of its own. */
export const readingOf = ({ sessionId, ...comb }, line, between) => ({
  request: randomUUID(),
  sessionId,
  input: { ...comb, coarseMm: null, pick: { line, between, lengths: 0 } },
});

/** Sends a reading once, to the page on which it is read; gives status and text of the answer. Throws when there is none. */
export async function sendReading(base, action, { sessionId, input, request }) {
  const answer = await fetch(`${base}/calibrate/${sessionId}/read`, {
    method: 'POST',
    headers: {
      ...{ 'next-action': action, 'content-type': 'text/plain;charset=UTF-8' },
      ...{ origin: base, cookie: 'who=KT' },
    },
    body: JSON.stringify([input, { request }]),
    signal: AbortSignal.timeout(ANSWER_WITHIN_MS),
  });
  const text = await answer.text();
  return { status: answer.status, text, kept: text.includes('"ok":true') };
}
