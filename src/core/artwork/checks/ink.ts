import type { Point, Rect } from '../../geometry';

import type { CheckedPrint, Page } from './types';

/** Ink above this is printed, of 255, where nothing is known of the stock. */
const PRINTED = 24;

/** Ink by place: on a sheet, or about one piece. */
export class Ink {
  constructor(
    private readonly of: NonNullable<CheckedPrint['ink']>,
    /** What the picture covers, mm, y upwards. */
    private readonly box: Rect,
    /** From which figure a pixel is printed, of 255. */
    readonly printedFrom = PRINTED,
  ) {}

  at(p: Point): number {
    const { width, height, values } = this.of;
    const { x0, y0, x1, y1 } = this.box;
    const x = Math.floor(((p.x - x0) / (x1 - x0)) * width);
    const y = Math.floor(((y1 - p.y) / (y1 - y0)) * height);
    return x < 0 || y < 0 || x >= width || y >= height ? 0 : values[y * width + x]!;
  }

  get pixelMm(): number {
    return (this.box.x1 - this.box.x0) / this.of.width;
  }

  most(r: Rect): number {
    let most = 0;
    for (let x = r.x0; x <= r.x1; x += this.pixelMm)
      for (let y = r.y0; y <= r.y1; y += this.pixelMm) most = Math.max(most, this.at({ x, y }));
    return most;
  }

  /** Whether anything is printed in a rectangle but outside of one within it, a pixel and a half left out. */
  anyAround(r: Rect, but: Rect): boolean {
    const edge = 1.5 * this.pixelMm;
    for (let x = r.x0; x <= r.x1; x += this.pixelMm)
      for (let y = r.y0; y <= r.y1; y += this.pixelMm) {
        const own = x > but.x0 - edge && x < but.x1 + edge && y > but.y0 - edge && y < but.y1 + edge;
        if (!own && this.at({ x, y }) > this.printedFrom) return true;
      }
    return false;
  }
}

export const inkOnPage = (of: NonNullable<CheckedPrint['ink']>, { widthMm, heightMm }: Page): Ink =>
  new Ink(of, { x0: 0, y0: 0, x1: widthMm, y1: heightMm });
