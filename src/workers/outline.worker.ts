import { expose } from 'comlink';

import {
  cutLineDrawing,
  cutLineOf,
  densityOf,
  traceRefusalText,
  type CutLineRecipe,
  type Picture,
} from '@/core/artwork';
import { writeDrawing } from '@/core/drawing/file';
import type { CutFormat } from '@/core/drawing/formats';

/* A thin shell: decodes and traces off the page’s own thread. One picture at a time. */

/** As the server has it: what is larger is scaled down elsewhere first. */
const MOST_PIXELS = 48_000_000;
/** Enough of a file to find what it says of its density. */
const HEAD_BYTES = 4096;

let picture: Picture | null = null;

const api = {
  /** Decodes a picture; how many pixels it has and what it says of its density, or why it cannot be read. */
  async open(file: Blob) {
    picture = null;
    let bitmap: ImageBitmap;
    try {
      bitmap = await createImageBitmap(file, { colorSpaceConversion: 'default' });
    } catch {
      return { ok: false, message: 'This is no picture that can be read here: PNG, JPEG or WebP.' } as const;
    }
    const { width, height } = bitmap;
    if (width * height > MOST_PIXELS) {
      bitmap.close();
      return {
        ok: false,
        message: `A picture of ${width} × ${height} pixels is more than can be traced at once: at most 48 megapixels. Scale it down first.`,
      } as const;
    }
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    context.drawImage(bitmap, 0, 0);
    bitmap.close();
    picture = { width, height, rgba: context.getImageData(0, 0, width, height).data };
    const dpi = densityOf(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer()));
    return { ok: true, width, height, dpi } as const;
  },

  cutLine(recipe: CutLineRecipe) {
    if (!picture) return { ok: false, message: 'Choose artwork first.' } as const;
    const done = cutLineOf(picture, recipe);
    return done.ok
      ? ({ ok: true, line: done.value } as const)
      : ({ ok: false, message: traceRefusalText(done.refusal) } as const);
  },

  file(recipe: CutLineRecipe, format: CutFormat): string | null {
    const done = picture && cutLineOf(picture, recipe);
    return done?.ok ? writeDrawing(cutLineDrawing(done.value), format) : null;
  },
};

export type OutlineWorker = typeof api;

expose(api);
