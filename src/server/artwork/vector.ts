import sharp from 'sharp';

import { accept, refuse, type Outcome } from '@/core/outcome';
import { pdfPage } from '@/server/heavy/pdfPage';

import { pictureHead, PICTURE_LIMIT_BYTES, type PictureRefusal } from './decode';

/*
 * Drawings as artwork: an SVG or one page of a PDF is drawn once, with everything that prints and clear where nothing does,
 * and from then on it is a picture like any other. Its outer line is then the union of all that prints, stroke widths
 * included; layers never cut each other.
 */

/** So many pixels a drawing is drawn with: an A4 page at about 490 dpi. */
const DRAWN_PIXELS = 22_000_000;
/** Finer than this nobody prints. */
const MOST_DPI = 600;
const MOST_SIDE_PX = 12_000;
const MM_PER_INCH = 25.4;
/** A PDF's page and an SVG's inch, in their own units. */
const POINTS_PER_INCH = 72;
const CSS_PX_PER_INCH = 96;

/** An SVG whose size has one of these units says how large it is; others are only in proportion. */
const TRUE_SIZE = /<svg\b[^>]*?\swidth\s*=\s*["']\s*([\d.]+)\s*(mm|cm|in|pt|pc)\s*["']/i;

const TEXT_LOOKED_AT = 4096;
const head = (bytes: Uint8Array, length: number): string =>
  Buffer.from(bytes.subarray(0, length)).toString('latin1');

/** Whether bytes are a PDF: its header may stand a little way in (ISO 32000-1, 7.5.2 and annex H). */
const isPdf = (bytes: Uint8Array): boolean => head(bytes, 1024).includes('%PDF-');
const isSvg = (bytes: Uint8Array): boolean => /<svg[\s>]|<svg:svg[\s>]/i.test(head(bytes, TEXT_LOOKED_AT));

/** How much finer than its own units a drawing is drawn, when it is so many inches large. */
function drawnDpi(widthIn: number, heightIn: number, most: number): number {
  return Math.min(
    most,
    Math.sqrt(DRAWN_PIXELS / (widthIn * heightIn)),
    MOST_SIDE_PX / Math.max(widthIn, heightIn),
  );
}

/**
 * Artwork as a picture that can be decoded: pictures as they are, an SVG or a PDF of one page drawn as PNG.
 *
 * Refuses  not-an-image (neither, or broken, empty, locked, of several pages, with a document type of its own), too-large.
 */
export async function asPicture(bytes: Uint8Array): Promise<Outcome<Uint8Array, PictureRefusal>> {
  if (bytes.length > PICTURE_LIMIT_BYTES)
    return refuse({
      code: 'too-large',
      message: `Artwork may have at most ${PICTURE_LIMIT_BYTES / 1048576} MB.`,
    });
  if (isPdf(bytes)) return drawnPdf(bytes);
  if (isSvg(bytes)) return drawnSvg(bytes);
  const known = await pictureHead(bytes);
  if (known.ok || known.refusal.code === 'too-large') return known.ok ? accept(bytes) : known;
  return notOne('This is no picture that can be read: PNG, JPEG, TIFF, WebP, SVG or a PDF of one page.');
}

const notOne = (message: string) => refuse({ code: 'not-an-image', message } as const);

async function drawnSvg(bytes: Uint8Array): Promise<Outcome<Uint8Array, PictureRefusal>> {
  const text = Buffer.from(bytes).toString('utf8');
  // Entities can grow without end; nothing that draws needs them.
  if (declares(text))
    return notOne('This SVG defines entities of its own, which are not read. Save it as plain SVG.');
  try {
    const { width = 0, height = 0 } = await sharp(bytes, { density: POINTS_PER_INCH }).metadata();
    if (!(width > 0 && height > 0)) return notOne('This SVG has no size. Save it with a width and a height.');
    const told = TRUE_SIZE.exec(text.slice(0, TEXT_LOOKED_AT));
    // In pixels of nobody knows what size it is drawn as finely as it may.
    const perInch = told ? POINTS_PER_INCH : CSS_PX_PER_INCH;
    const [widthIn, heightIn] = [width / perInch, height / perInch];
    const dpi = drawnDpi(widthIn, heightIn, told ? MOST_DPI : Infinity);
    const finer = dpi / perInch;
    // The renderer takes the density twice where a length has a true unit: for its pixels an inch, and as a scale.
    const density = POINTS_PER_INCH * (told ? Math.sqrt(finer) : finer);
    if (density < 1) return tooLarge();
    const drawn = sharp(bytes, { density, limitInputPixels: 2 * DRAWN_PIXELS });
    const tells = drawn.withMetadata({ density: told ? dpi : POINTS_PER_INCH });
    return accept(await tells.png({ compressionLevel: 6 }).toBuffer());
  } catch {
    return notOne('This SVG cannot be drawn: it is broken, or has nothing in it.');
  }
}

/** Whether a text declares entities, or a document type with declarations of its own; in one pass. */
function declares(text: string): boolean {
  const upper = text.toUpperCase();
  if (upper.includes('<!ENTITY')) return true;
  for (let at = upper.indexOf('<!DOCTYPE'); at >= 0;) {
    const end = upper.indexOf('>', at);
    const inside = upper.indexOf('[', at);
    if (inside >= 0 && (end < 0 || inside < end)) return true;
    if (end < 0) return false;
    at = upper.indexOf('<!DOCTYPE', end);
  }
  return false;
}

const tooLarge = () =>
  refuse({
    code: 'too-large',
    message: `This drawing is larger than can be drawn: at most ${Math.round((MOST_SIDE_PX / POINTS_PER_INCH) * MM_PER_INCH)} mm along a side. Scale it down first.`,
  } as const);

async function drawnPdf(bytes: Uint8Array): Promise<Outcome<Uint8Array, PictureRefusal>> {
  const page = await pdfPage({ bytes, pixels: DRAWN_PIXELS, dpi: MOST_DPI, side: MOST_SIDE_PX });
  if (!page.ok) return notOne(page.refusal);
  const { width, height, rgba, dpi } = page.value;
  return accept(
    await sharp(rgba, { raw: { width, height, channels: 4 } })
      .withMetadata({ density: dpi })
      .png({ compressionLevel: 6 })
      .toBuffer(),
  );
}
