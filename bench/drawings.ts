import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

import { chromium, type Page } from '@playwright/test';

import { correctFile, textOf } from '../src/core/drawing/file';
import { affineMap, invertAffine, type Affine } from '../src/core/geometry';
import { CHROMIUM } from '../e2e/browser';

/*
 * Two hundred drawings that nobody here made, from Debian’s package tango-icon-theme, corrected and rendered by Chromium
 * beside the original that Chromium itself warped: what is painted has to follow what is cut.
 */

const FOLDER = process.env.RED_PLUMB_DRAWINGS ?? '/usr/share/icons/Tango/scalable';
const HOW_MANY = 200;
/** The picture’s width, px, and how far edges may be apart in it. */
const SIZE = 480;
const WITHIN_PX = 2;

const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .map((name) => join(folder, name))
    .filter((name) => name.endsWith('.svg') && statSync(name).isFile())
    .sort();

/** A turn, two scales, a lean and a shift, of the size of a drawing: what is left behind shows. */
const mapFor = (w: number, h: number): Affine => ({
  ...{ a11: 1.03, a12: 0.02, a21: 0.03, a22: 0.97 },
  ...{ tx: 0.03 * w, ty: -0.04 * h },
});

interface Judged {
  readonly file: string;
  /** Share of edges that lie within two pixels of an edge of the other picture. */
  readonly share: number;
  readonly notes: readonly string[];
}

export async function drawingsBench(): Promise<void> {
  const files = filesIn(FOLDER);
  const every = Math.max(1, files.length / HOW_MANY);
  const chosen = Array.from(
    { length: Math.min(HOW_MANY, files.length) },
    (_, i) => files[Math.floor(i * every)]!,
  );
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: SIZE, height: SIZE } });
  // The compiler of scripts names functions by a helper that a page does not have.
  await page.evaluate('globalThis.__name = (f) => f');
  const judged: Judged[] = [];
  const refused: string[] = [];
  let undrawn = 0;
  for (const file of chosen) {
    const text = textOf(readFileSync(file));
    const size = sizeOf(text);
    const t = mapFor(size.w, size.h);
    const done = correctFile(text, affineMap(t));
    if (!done.ok) refused.push(`${file}: ${done.refusal.code}`);
    else {
      const share = await compare(page, text, done.value.content, t);
      if (share === null) undrawn += 1;
      else judged.push({ file, share, notes: done.value.report.notes.map((n) => n.what) });
    }
  }
  await browser.close();
  const good = judged.filter((j) => j.share >= 0.97).length;
  const mean = judged.reduce((sum, j) => sum + j.share, 0) / Math.max(1, judged.length);
  console.log(
    `${chosen.length} drawings of ${files.length} in ${FOLDER}: ${refused.length} refused, ${undrawn} not drawn by the renderer itself, ${good} of ${judged.length} with at least 97 % of their edges within ${WITHIN_PX} px; mean ${(100 * mean).toFixed(2)} %`,
  );
  for (const line of refused) console.log(`refused ${line}`);
  for (const j of judged.filter((x) => x.share < 0.97).sort((a, b) => a.share - b.share))
    console.log(
      `${(100 * j.share).toFixed(1)} % ${j.file}${j.notes.length ? `: ${j.notes.join('; ')}` : ''}`,
    );
}

const MM_OF: Readonly<Record<string, number>> = {
  '': 25.4 / 96,
  ...{ px: 25.4 / 96, mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6 },
};

/** Width and height of the page, mm, as the file says. */
function sizeOf(svg: string): { w: number; h: number } {
  const root = /<svg[^>]*>/.exec(svg)![0];
  const [, , , boxW, boxH] =
    /viewBox="([-\d.e]+)[ ,]+([-\d.e]+)[ ,]+([\d.e]+)[ ,]+([\d.e]+)"/.exec(root) ?? [];
  const box = { width: boxW, height: boxH };
  const of = (name: 'width' | 'height'): number => {
    const [, figure, unit] = new RegExp(`\\s${name}="([\\d.]+)([a-z]*)"`).exec(root) ?? [null, box[name]];
    return Number(figure ?? 48) * (MM_OF[unit ?? ''] ?? MM_OF[''])!;
  };
  return { w: of('width'), h: of('height') };
}

const dataOf = (svg: string): string => `data:image/svg+xml;base64,${Buffer.from(svg).toString('base64')}`;

/** Both pictures of one size; the share of their edges that have a partner. */
async function compare(page: Page, original: string, corrected: string, t: Affine): Promise<number | null> {
  const k = invertAffine(t);
  const { h, w } = sizeOf(original);
  // K of the page's mm, y up, as a matrix of the picture's pixels, y down.
  const scale = SIZE / Math.max(w, h);
  const matrix = [k.a11, -k.a21, -k.a12, k.a22, scale * (k.tx + k.a12 * h), scale * (h - k.a22 * h - k.ty)];
  return page.evaluate(
    async ([a, b, m, size, near, pw, ph]) => {
      const draw = async (
        source: string,
        transform: readonly number[] | null,
      ): Promise<Uint8ClampedArray | null> => {
        const image = new Image();
        image.src = source;
        const drawn = await image.decode().then(
          () => true,
          () => false,
        );
        if (!drawn) return null;
        const canvas = document.createElement('canvas');
        canvas.width = canvas.height = size;
        const context = canvas.getContext('2d')!;
        context.fillStyle = '#fff';
        context.fillRect(0, 0, size, size);
        if (transform)
          context.setTransform(...(transform as [number, number, number, number, number, number]));
        context.drawImage(image, 0, 0, pw, ph);
        return context.getImageData(0, 0, size, size).data;
      };
      const edges = (data: Uint8ClampedArray): Uint8Array => {
        const out = new Uint8Array(size * size);
        const light = (i: number): number => data[4 * i]! + data[4 * i + 1]! + data[4 * i + 2]!;
        for (let y = 1; y < size - 1; y += 1)
          for (let x = 1; x < size - 1; x += 1) {
            const i = y * size + x;
            const d = Math.abs(light(i + 1) - light(i - 1)) + Math.abs(light(i + size) - light(i - size));
            if (d > 150) out[i] = 1;
          }
        return out;
      };
      const inside = (x: number, y: number): boolean => {
        // What the original's own page cut off is nobody's fault: only what it showed is judged.
        const det = m[0]! * m[3]! - m[1]! * m[2]!;
        const [u, v] = [x - m[4]!, y - m[5]!];
        const [px, py] = [(m[3]! * u - m[2]! * v) / det, (m[0]! * v - m[1]! * u) / det];
        return px > 3 && py > 3 && px < pw - 3 && py < ph - 3 && x > 3 && y > 3 && x < pw - 3 && y < ph - 3;
      };
      const [first, second] = [await draw(a, m), await draw(b, null)];
      // An original that the renderer does not draw says nothing; a correction that it does not draw is wrong.
      if (!first || !second) return first ? 0 : null;
      const [one, two] = [edges(first), edges(second)];
      let [all, met] = [0, 0];
      for (const [own, other] of [
        [one, two],
        [two, one],
      ] as const)
        for (let y = 0; y < size; y += 1)
          for (let x = 0; x < size; x += 1) {
            if (!own[y * size + x] || !inside(x, y)) continue;
            all += 1;
            let found = 0;
            for (let j = Math.max(0, y - near); j <= Math.min(size - 1, y + near) && !found; j += 1)
              for (let i = Math.max(0, x - near); i <= Math.min(size - 1, x + near); i += 1)
                if (other[j * size + i]) found = 1;
            met += found;
          }
      return all === 0 ? 1 : met / all;
    },
    [dataOf(original), dataOf(corrected), matrix, SIZE, WITHIN_PX, scale * w, scale * h] as const,
  );
}
