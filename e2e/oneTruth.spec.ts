import { expect, test, type Page } from '@playwright/test';

/*
 * One setup, one state, one next step: whichever screen speaks of it. Walked over every setup that hangs on the bench of
 * the shop that is served, the demo's as a rule.
 */

interface Told {
  /** “Plumb”, “Leaning”, “Not measured” …; null where a screen does not say. */
  readonly state: string | null;
  /** What is done with it next, as its first act says. */
  readonly act: string | null;
}

/** What the Bench says of every setup: by the address of its page. */
async function onTheBench(page: Page): Promise<Map<string, Told & { readonly rig: string }>> {
  await page.goto('/');
  const rows = await page.locator('section.rig-group').evaluateAll((groups) =>
    groups.flatMap((group) =>
      [...group.querySelectorAll('.setup-row')].map((row) => ({
        rig: group.querySelector<HTMLAnchorElement>('h2 a')!.getAttribute('href')!,
        at: row.querySelector<HTMLAnchorElement>('h3 a')!.getAttribute('href')!,
        state: row.querySelector('.tag')!.textContent,
        act: row.querySelector('.acts > .btn')!.textContent,
      })),
    ),
  );
  return new Map(rows.map(({ at, ...told }) => [at, told]));
}

const STATES = /is (plumb|leaning|out of plumb),|(was never measured|is not proved yet)/;
const AS_TAGGED: Readonly<Record<string, string>> = {
  'was never measured': 'Not measured',
  'is not proved yet': 'Not proved',
  plumb: 'Plumb',
  leaning: 'Leaning',
  'out of plumb': 'Out of plumb',
};

test('bench, rig, setup, charts and plan agree about every setup: its state and its next step', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const bench = await onTheBench(page);
  expect(bench.size).toBeGreaterThanOrEqual(3);
  for (const [at, told] of bench) {
    await page.goto(at);
    const sentence = (await page.locator('h1.answer').textContent())!;
    const [, state, unknown] = STATES.exec(sentence) ?? [];
    expect([at, AS_TAGGED[state ?? unknown ?? '']]).toEqual([at, told.state]);
    const acts = page.locator('main .d-flex > .btn');
    await expect(acts.first()).toHaveText(told.act!);
    // What the sentence asks for is the red act; where it asks for nothing, nothing is red.
    const red = page.locator('main .btn-main');
    if (/\. [A-Z][^:]*(:| before it runs| it)/.test(sentence)) await expect(red).toHaveText(told.act!);
    else await expect(red).toHaveCount(0);

    await page.goto(told.rig);
    const row = page.locator('table.wants tbody tr', { has: page.locator(`a[href="${at}"]`) }).first();
    await expect(row.locator('.tag')).toHaveText(told.state!);
    await expect(row.locator('.wants-act .btn')).toHaveText(told.act!);

    const id = at.split('/').at(-1)!;
    await page.goto(`${told.rig}/charts?medium=${id}`);
    const charted = page.locator('.answer-row .btn-main');
    if ((await charted.count()) > 0) await expect(charted).toHaveText(told.act!);

    await page.goto(`/jobs/new?setup=${id}`);
    await expect(page.locator('header.top .tag')).toHaveText(told.state!);
  }
});
