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

/** A reading of a comb, with a number of its own. */
export const readingOf = (passId, comb, line, between) => ({
  request: randomUUID(),
  input: { passId, ...comb, coarseMm: null, pick: { line, between, lengths: 0 } },
});

/** Sends a reading once; gives status and text of the answer. Throws when there is none. */
export async function sendReading(base, action, { input, request }) {
  const answer = await fetch(`${base}/`, {
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
