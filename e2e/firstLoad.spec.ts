import { expect, test, type APIRequestContext } from '@playwright/test';

import { MOST_SCRIPT_BYTES, scriptBytes } from './weight';

/* What a page makes a tablet fetch before it can be used. Correct and Prove are weighed where a session gets there. */

async function addresses(request: APIRequestContext): Promise<string[]> {
  const links = async (path: string, pattern: RegExp): Promise<string[]> => [
    ...new Set([...(await (await request.get(path)).text()).matchAll(pattern)].map((m) => m[1]!)),
  ];
  const found = await Promise.all([
    links('/', /href="(\/rigs\/[0-9a-f-]{36})"/g),
    links('/', /href="(\/rigs\/[0-9a-f-]{36}\/new)"/g),
    links('/', /href="(\/setups\/[0-9a-f-]{36})"/g),
    links('/', /href="(\/setups\/[0-9a-f-]{36}\/roll)"/g),
    links('/jobs', /href="(\/jobs\/[0-9a-f-]{36})"/g),
    links('/', /href="(\/calibrate\/[0-9a-f-]{36})"/g),
    links('/logbook', /href="(\/logbook\/[0-9a-f-]{36})"/g),
  ]);
  return [
    ...['/', '/calibrate', '/jobs', '/jobs/new', '/logbook', '/rigs/new'],
    ...found.flatMap((list) => list.slice(0, 6)),
  ];
}

test(`no page loads more than ${MOST_SCRIPT_BYTES / 1000} kB of scripts before it can be used`, async ({
  request,
}) => {
  const pages = await addresses(request);
  expect(pages.length).toBeGreaterThan(15);
  const heavy: string[] = [];
  for (const page of pages) {
    const bytes = await scriptBytes(request, page);
    if (process.env.RED_PLUMB_SIZES) console.log(`${page}: ${Math.round(bytes / 1000)} kB`);
    if (bytes > MOST_SCRIPT_BYTES) heavy.push(`${page}: ${Math.round(bytes / 1000)} kB`);
  }
  expect(heavy).toEqual([]);
});
