import type { Page } from '@playwright/test';

/** What a screen asks of whoever looks at it. */
export interface Loudness {
  /** Words of the work that have a box of their own; options of choices and folded or hidden text left out. */
  readonly words: number;
  /** Where the red act ends, px from the top; null where there is none. */
  readonly redEndsAt: number | null;
  readonly headlineLines: number;
}

/** Counts what is shown now. */
export const loudness = (page: Page): Promise<Loudness> =>
  page.evaluate(() => {
    const main = document.querySelector('main') ?? document.body;
    const walk = document.createTreeWalker(main, NodeFilter.SHOW_TEXT);
    let words = 0;
    for (let node = walk.nextNode(); node; node = walk.nextNode()) {
      const parent = node.parentElement!;
      if (
        parent.closest('select, script, style, title') ||
        !parent.checkVisibility({ opacityProperty: true })
      )
        continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      const box = range.getBoundingClientRect();
      const clip = parent.closest('.visually-hidden');
      if (clip || box.width < 2 || box.height < 2) continue;
      words += (node.textContent ?? '').split(/\s+/).filter((w) => /\p{L}/u.test(w)).length;
    }
    const red = [...main.querySelectorAll<HTMLElement>('.btn-main')].find((b) => b.checkVisibility());
    const headline = document.querySelector<HTMLElement>('h1.answer');
    const line = headline ? Number.parseFloat(getComputedStyle(headline).lineHeight) : 1;
    return {
      words,
      redEndsAt: red ? Math.round(red.getBoundingClientRect().bottom + window.scrollY) : null,
      headlineLines: headline ? Math.round(headline.getBoundingClientRect().height / line) : 0,
    };
  });
