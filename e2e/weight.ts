import { gzipSync } from 'node:zlib';

import { expect, type APIRequestContext } from '@playwright/test';

const sizes = new Map<string, number>();

/** Bytes of scripts, compressed as they are sent, that a page names before it can be used. */
export async function scriptBytes(request: APIRequestContext, page: string): Promise<number> {
  const answer = await request.get(page);
  expect(answer.status(), page).toBe(200);
  const tags = [...(await answer.text()).matchAll(/<script[^>]*?\ssrc="([^"]+)"([^>]*)>/g)];
  let bytes = 0;
  for (const [tag, file] of tags) {
    if (/nomodule/i.test(tag)) continue;
    const known = sizes.get(file!) ?? gzipSync(await (await request.get(file!)).body()).byteLength;
    sizes.set(file!, known);
    bytes += known;
  }
  expect(bytes, page).toBeGreaterThan(50_000);
  return bytes;
}

/** The most that any page may make a tablet fetch. */
export const MOST_SCRIPT_BYTES = 190_000;
