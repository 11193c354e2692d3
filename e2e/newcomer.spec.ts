import { expect, test, type Locator, type Page } from '@playwright/test';
import sharp from 'sharp';

import { badge } from '../test/badge';

/*
 * From the photograph of a logo to the first pair, as somebody does it who never saw the page. What the hands and the head
 * take is counted by the keystroke-level model (Card, Moran & Newell, “The keystroke-level model for user performance time
 * with interactive systems”, CACM 23(7), 1980; its operators from memory), reading by words, the machine by the clock.
 */

/** Seconds: a key of somebody who types seldom, pointing, hand to mouse or keys, making up one's mind. */
const KEY_S = 0.5;
const POINT_S = 1.1;
const HAND_S = 0.4;
const MIND_S = 1.35;
/** Silent reading, words a second: 238 a minute (Brysbaert, “How many words do we read per minute?”, 2019; from memory). */
const WORDS_A_S = 238 / 60;
/** To find a file in the system's own dialog: three choices and a key, each thought about. */
const DIALOG_S = 4 * (MIND_S + POINT_S + HAND_S);

class Newcomer {
  seconds = 0;
  readonly steps: string[] = [];
  constructor(private readonly page: Page) {}

  private count(what: string, seconds: number): void {
    this.seconds += seconds;
    this.steps.push(`${what}: ${seconds.toFixed(1)} s`);
  }

  /** Reads what a part of the page says. */
  async read(part: Locator): Promise<void> {
    const words = ((await part.innerText()).match(/\S+/g) ?? []).length;
    this.count(`reads ${words} words`, words / WORDS_A_S);
  }

  async press(name: string, what: Locator): Promise<void> {
    await this.machine(() => what.click());
    this.count(`presses ${name}`, MIND_S + HAND_S + POINT_S + 2 * 0.1);
  }

  async type(name: string, field: Locator, text: string): Promise<void> {
    await this.machine(() => field.fill(text));
    this.count(`types ${name}`, MIND_S + POINT_S + 2 * HAND_S + text.length * KEY_S);
  }

  async file(field: Locator, file: { name: string; mimeType: string; buffer: Buffer }): Promise<void> {
    await this.machine(() => field.setInputFiles(file));
    this.count('finds the file', DIALOG_S);
  }

  /** What the machine takes, by the clock. */
  async machine<T>(act: () => Promise<T>): Promise<T> {
    const from = Date.now();
    const done = await act();
    this.seconds += (Date.now() - from) / 1000;
    return done;
  }

  answer(): Locator {
    return this.page.getByRole('heading', { level: 1 });
  }
}

/** A logo held before a telephone: not quite square, unevenly lit, grainy, saved as JPEG. */
async function photograph(): Promise<Buffer> {
  const grain = await sharp({
    create: {
      width: 1500,
      height: 1150,
      channels: 3,
      background: '#000',
      noise: { type: 'gaussian', mean: 12, sigma: 8 },
    },
  })
    .png()
    .toBuffer();
  const light = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="1500" height="1150"><defs><radialGradient id="g"><stop offset="0" stop-color="#000" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity="0.16"/></radialGradient></defs><rect width="1500" height="1150" fill="url(#g)"/></svg>',
  );
  const page = await badge().resize(1300).rotate(3, { background: '#fff' }).png().toBuffer();
  return sharp({ create: { width: 1500, height: 1150, channels: 3, background: '#f4f2ee' } })
    .composite([
      { input: page, gravity: 'centre', blend: 'multiply' },
      { input: light },
      { input: grain, blend: 'difference' },
    ])
    .jpeg({ quality: 80 })
    .toBuffer();
}

test('from the photograph of a logo to the first pair in under two minutes', async ({ page }) => {
  const who = new Newcomer(page);
  const main = page.getByRole('main');
  await who.machine(() => page.goto('/jobs').then(() => page.getByRole('heading', { level: 1 }).waitFor()));
  await who.read(who.answer());
  await who.press('A sheet from a picture', page.getByRole('link', { name: 'A sheet from a picture' }));
  await who.machine(() => expect(page.getByRole('button', { name: 'Choose artwork' })).toBeEnabled());
  await who.read(main);
  await who.file(page.getByLabel('Artwork to trace'), {
    ...{ name: 'logo.jpg', mimeType: 'image/jpeg' },
    buffer: await photograph(),
  });
  await who.machine(() => expect(who.answer()).toHaveText('How large is it to be?'));
  await who.read(who.answer());
  await who.type('its width', page.getByLabel('Picture’s width, mm'), '80');
  await who.machine(() => expect(who.answer()).toContainText('One line'));
  await who.read(who.answer());
  await who.read(page.getByRole('form', { name: 'Make a sheet job of it' }));
  await who.press('Lay it out', page.getByRole('button', { name: 'Lay it out' }));
  await who.machine(() => page.waitForURL(/jobs\/sheets\//));
  await who.machine(() => expect(who.answer()).toContainText('pieces on'));
  await who.read(who.answer());
  await who.press('Freeze it', page.getByRole('button', { name: 'Freeze it for printing' }));
  await who.machine(() => expect(who.answer()).toContainText('is frozen'));
  await who.read(who.answer());
  for (const name of ['Print file, PDF', 'SVG'])
    await who.machine(async () => {
      const coming = page.waitForEvent('download');
      await who.press(name, page.getByRole('link', { name, exact: true }).first());
      await (await coming).path();
    });
  test.info().annotations.push({ type: 'seconds', description: who.seconds.toFixed(0) });
  expect(who.seconds, who.steps.join('\n')).toBeLessThan(120);
});
