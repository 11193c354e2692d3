import { PDFiumLibrary } from '@hyzyla/pdfium';

export interface RasterPage {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly width: number;
  readonly height: number;
  /** Grey, a byte a pixel, row by row from the top. */
  readonly grey: Uint8Array;
}

const POINT_MM = 25.4 / 72;

/** The pages of a PDF as PDFium draws them, which is not ours: their size, and their grey at so many pixels an inch. */
export async function drawnByPdfium(bytes: Uint8Array, dpi: number): Promise<RasterPage[]> {
  const library = await PDFiumLibrary.init();
  try {
    const document = await library.loadDocument(bytes);
    const pages: RasterPage[] = [];
    for (const page of document.pages()) {
      const { originalWidth, originalHeight } = page.getOriginalSize();
      const size = {
        width: Math.round((originalWidth / 72) * dpi),
        height: Math.round((originalHeight / 72) * dpi),
      };
      const { data, width, height } = await page.render({ ...size, scale: 1, render: 'bitmap' });
      const grey = new Uint8Array(width * height);
      for (let i = 0; i < grey.length; i += 1)
        grey[i] = (data[4 * i]! + data[4 * i + 1]! + data[4 * i + 2]!) / 3;
      pages.push({
        widthMm: originalWidth * POINT_MM,
        heightMm: originalHeight * POINT_MM,
        width,
        height,
        grey,
      });
    }
    return pages;
  } finally {
    library.destroy();
  }
}

/** Farther than this from a line no edge is looked for, pixels. */
const REACH_PX = 12;
const STEP_PX = 0.125;

/**
 * How far the edge of the ink lies from a line, pixels, along its normal: positive to the left of its direction. Null where
 * no edge is near. The edge is where the grey is halfway between ink and paper.
 */
export function edgeFrom(
  page: RasterPage,
  at: { readonly x: number; readonly y: number },
  normal: { readonly x: number; readonly y: number },
): number | null {
  const perMm = page.width / page.widthMm;
  const grey = (by: number): number => {
    // The middle of the first pixel lies half a pixel from the page's edge.
    const x = at.x * perMm + normal.x * by - 0.5;
    const y = (page.heightMm - at.y) * perMm - normal.y * by - 0.5;
    const [x0, y0] = [Math.floor(x), Math.floor(y)];
    const of = (i: number, j: number): number => page.grey[(y0 + j) * page.width + x0 + i] ?? 255;
    const [u, v] = [x - x0, y - y0];
    return (of(0, 0) * (1 - u) + of(1, 0) * u) * (1 - v) + (of(0, 1) * (1 - u) + of(1, 1) * u) * v;
  };
  const half = (grey(-REACH_PX) + grey(REACH_PX)) / 2;
  if (Math.abs(grey(-REACH_PX) - grey(REACH_PX)) < 40) return null;
  const sign = Math.sign(grey(-REACH_PX) - half);
  for (let by = -REACH_PX; by <= REACH_PX; by += STEP_PX) if (sign * (grey(by) - half) <= 0) return by;
  return null;
}
