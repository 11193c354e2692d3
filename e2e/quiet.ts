import { expect, type Page } from '@playwright/test';

/** What a screen asks of whoever looks at it. */
export interface Loudness {
  /** Words of the work that have a box of their own; choices’ options, warnings, and folded or hidden text left out. */
  readonly words: number;
  /** Where the red act ends, px from the top; null where there is none. */
  readonly redEndsAt: number | null;
  readonly headlineLines: number;
  /** The longest sentence that is shown, where it is longer than a screen of work may say. */
  readonly tooLong: string | null;
}

/** A sentence of a screen of work has no more words than this. */
const LONGEST_SENTENCE = 20;

/** Counts what is shown now. */
export const loudness = (page: Page): Promise<Loudness> =>
  page.evaluate((longest) => {
    const wordsOf = (text: string): number => text.split(/\s+/).filter((w) => /\p{L}/u.test(w)).length;
    const main = document.querySelector('main') ?? document.body;
    const walk = document.createTreeWalker(main, NodeFilter.SHOW_TEXT);
    let words = 0;
    for (let node = walk.nextNode(); node; node = walk.nextNode()) {
      const parent = node.parentElement!;
      if (
        parent.closest('select, script, style, title, .notice') ||
        !parent.checkVisibility({ opacityProperty: true })
      )
        continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      const box = range.getBoundingClientRect();
      const clip = parent.closest('.visually-hidden');
      if (clip || box.width < 2 || box.height < 2) continue;
      words += wordsOf(node.textContent ?? '');
    }
    const sentences = [...main.querySelectorAll<HTMLElement>('h1, p, li, label, legend, summary')]
      .filter((e) => e.checkVisibility() && !e.querySelector('p, li, label, button, dl, table'))
      .flatMap((e) => (e.textContent ?? '').replace(/\s+/g, ' ').split(/(?<=[.?!:;]) /));
    const red = [...main.querySelectorAll<HTMLElement>('.btn-main')].find((b) => b.checkVisibility());
    const headline = document.querySelector<HTMLElement>('h1.answer');
    const line = headline ? Number.parseFloat(getComputedStyle(headline).lineHeight) : 1;
    return {
      words,
      redEndsAt: red ? Math.round(red.getBoundingClientRect().bottom + window.scrollY) : null,
      headlineLines: headline ? Math.round(headline.getBoundingClientRect().height / line) : 0,
      tooLong: sentences.find((s) => wordsOf(s) > longest) ?? null,
    };
  }, LONGEST_SENTENCE);

/** Shuts what stands open; says what did. */
const shut = (page: Page): Promise<string[]> =>
  page.locator('details[open]').evaluateAll((all) =>
    all.map((d) => {
      (d as HTMLDetailsElement).open = false;
      return d.querySelector('summary')?.textContent ?? '';
    }),
  );

/** At most so many words with everything folded, and a headline of at most two lines; what was open is open again. */
export async function expectQuiet(page: Page, name: string, mostWords: number): Promise<void> {
  const opened: string[] = [];
  // A fold that somebody opened before opens a moment after its page has come: shut again.
  await expect(async () => {
    opened.push(...(await shut(page)));
    const { words, headlineLines, tooLong } = await loudness(page);
    if (process.env.RED_PLUMB_SIZES) console.log(`${name}: ${words} words, ${headlineLines} lines`);
    expect([name, words <= mostWords ? 'quiet' : words]).toEqual([name, 'quiet']);
    expect([name, headlineLines <= 2 ? 'short' : headlineLines]).toEqual([name, 'short']);
    expect([name, tooLong]).toEqual([name, null]);
  }).toPass({ timeout: 3000 });
  await page.locator('details').evaluateAll((all, names) => {
    for (const d of all)
      if (names.includes(d.querySelector('summary')?.textContent ?? ''))
        (d as HTMLDetailsElement).open = true;
  }, opened);
}
