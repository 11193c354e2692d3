import { accept, refuse, type Outcome } from '@/core/outcome';

/** A page to draw: at most so many pixels, so many of them an inch and along a side. */
export interface PageToDraw {
  readonly bytes: Uint8Array;
  readonly pixels: number;
  readonly dpi: number;
  readonly side: number;
}

export interface DrawnPage {
  readonly width: number;
  readonly height: number;
  /** Red, green, blue, how opaque: clear where nothing prints. */
  readonly rgba: Uint8Array;
  readonly dpi: number;
}

const POINTS_PER_INCH = 72;

/** Draws the only page of a PDF. Refuses, in words, what is broken, locked, empty or has more pages. */
export async function pdfPage({
  bytes,
  pixels,
  dpi: most,
  side,
}: PageToDraw): Promise<Outcome<DrawnPage, string>> {
  // Fetched when the first PDF comes: most threads never see one.
  const { PDFiumLibrary } = await import('@hyzyla/pdfium');
  const library = await PDFiumLibrary.init();
  try {
    const document = await library.loadDocument(bytes);
    const pages = document.getPageCount();
    if (pages !== 1)
      return refuse(`This PDF has ${pages} pages. Save the one that is printed as a PDF of its own.`);
    const page = document.getPage(0);
    const { originalWidth, originalHeight } = page.getOriginalSize();
    const [widthIn, heightIn] = [originalWidth / POINTS_PER_INCH, originalHeight / POINTS_PER_INCH];
    if (!(widthIn > 0 && heightIn > 0)) return refuse('The page of this PDF has no size.');
    const at = Math.min(most, Math.sqrt(pixels / (widthIn * heightIn)), side / Math.max(widthIn, heightIn));
    // Its own scale goes by whole points, a third of a millimetre: by pixels it is drawn as large as it is.
    const size = { width: Math.round(widthIn * at), height: Math.round(heightIn * at) };
    const drawn = await page.render({ ...size, scale: 1, transparent: true, render: 'bitmap' });
    // Whole pixels: the density is what the longer side has of them.
    const { width, height } = drawn;
    const dpi = widthIn > heightIn ? width / widthIn : height / heightIn;
    return accept({ width, height, rgba: drawn.data.slice(), dpi });
  } catch (error) {
    return refuse(
      /password/i.test(String(error))
        ? 'This PDF is locked with a password. Save it without one.'
        : 'This PDF is broken or cut off. Save it again and send it whole.',
    );
  } finally {
    library.destroy();
  }
}
