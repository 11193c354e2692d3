import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

const ALL = { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'] } as const;

/** The rules that a theme can break. */
const COLOURS = { type: 'rule', values: ['color-contrast', 'link-in-text-block'] } as const;

/** No automatic accessibility violation on what is shown now, and nothing sticks out sideways. */
export async function expectSound(page: Page, rules: typeof ALL | typeof COLOURS = ALL): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .options({
      runOnly: { type: rules.type, values: [...rules.values] },
      resultTypes: ['violations'],
      preload: false,
    })
    // There are no frames to look into, so no page has to be opened to gather what they say.
    .setLegacyMode(true)
    .analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`)).toEqual([]);
  const over = await page.evaluate(
    () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
  );
  expect(over).toBeLessThanOrEqual(0);
}

const SIZES = [
  [390, 844],
  [768, 1024],
  [1280, 800],
] as const;

/** The same at three widths, and of the dark what colours can break; ends light and at a desk's width. */
export async function expectSoundAtAllWidths(page: Page): Promise<void> {
  for (const [theme, rules] of [
    ['dark', COLOURS],
    ['light', ALL],
  ] as const) {
    await page.evaluate((name) => {
      document.documentElement.dataset.bsTheme = name;
    }, theme);
    for (const [width, height] of SIZES) {
      await page.setViewportSize({ width, height });
      await expectSound(page, rules);
    }
  }
}

/** Fails the test on any error in the console or the page. */
export function listenForErrors(page: Page): string[] {
  const errors: string[] = [];
  page.on('console', (m) => {
    if (m.type() === 'error') errors.push(`${m.text()} ${m.location().url}`);
  });
  page.on('pageerror', (e) => errors.push(String(e)));
  return errors;
}

/** Presses Tab until the control of this name has the focus: a mouse is not needed to get there. */
export async function tabTo(page: Page, name: string | RegExp, most = 80): Promise<void> {
  for (let i = 0; i < most; i += 1) {
    await page.keyboard.press('Tab');
    const words = await page.evaluate(() => {
      const el = document.activeElement as HTMLElement | null;
      const labels = el instanceof HTMLInputElement ? el.labels : null;
      return el?.getAttribute('aria-label') ?? labels?.[0]?.innerText ?? el?.innerText ?? '';
    });
    if (typeof name === 'string' ? words.trim().startsWith(name) : name.test(words)) return;
  }
  throw new Error(`tabTo: “${name}” was not reached with ${most} presses of Tab`);
}
