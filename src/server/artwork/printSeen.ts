import sharp, { type Sharp } from 'sharp';
import { inflateSync } from 'node:zlib';

import type { CheckedPrint, Page } from '@/core/artwork/checks';
import { parseXml, type XmlElement, type XmlNode } from '@/core/drawing/svg/parseXml';
import { MM_PER_PX, svgLength } from '@/core/drawing/svg/svgLength';
import { parseViewBox } from '@/core/drawing/svg/viewport';
import { writeXml } from '@/core/drawing/svg/writeXml';
import { accept, refuse, type Outcome } from '@/core/outcome';

import { MOST_PIXELS, pictureHead, PICTURE_LIMIT_BYTES, type PictureRefusal } from './decode';

/* A print as far as it can be looked at: its page, where there is ink, and how dense its bitmaps are. */

/** The long side of the picture in which ink is looked for. */
const SEEN_PX = 2000;
const MM_PER_INCH = 25.4;

/**
 * Looks at a print: a picture covers the media, an SVG is drawn here, of a PDF the page alone is read.
 * Refuses  what is none of them, or larger than may be sent.
 */
export async function printSeen(
  bytes: Uint8Array,
  media: Page,
): Promise<Outcome<CheckedPrint, PictureRefusal>> {
  if (bytes.length > PICTURE_LIMIT_BYTES)
    return refuse({
      code: 'too-large',
      message: `A print may have at most ${PICTURE_LIMIT_BYTES / 1048576} MB.`,
    });
  const head = Buffer.from(bytes.subarray(0, 1024)).toString('latin1');
  if (head.includes('%PDF-')) return accept({ page: pdfPage(bytes), ink: null, bitmapsDpi: [] });
  if (/<svg[\s>]|<\?xml/.test(head)) return svgSeen(new TextDecoder().decode(bytes));
  const picture = await pictureHead(bytes);
  if (!picture.ok) return picture;
  const { width, height } = picture.value;
  const seen = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error', pages: 1 }).autoOrient();
  const ink = await inkOf(seen).catch(() => null);
  if (!ink)
    return refuse({
      code: 'not-an-image',
      message: 'This picture is cut off or broken. Save it again and send it whole.',
    });
  return accept({
    page: null,
    ink,
    bitmapsDpi: [Math.min(width / (media.widthMm / MM_PER_INCH), height / (media.heightMm / MM_PER_INCH))],
  });
}

async function inkOf(image: Sharp): Promise<NonNullable<CheckedPrint['ink']>> {
  const { data, info } = await image
    .resize({ width: SEEN_PX, height: SEEN_PX, fit: 'inside', withoutEnlargement: true })
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .removeAlpha()
    .timeout({ seconds: MOST_SECONDS })
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  const values = new Uint8Array(info.width * info.height);
  for (let i = 0, p = 0; i < values.length; i += 1, p += info.channels)
    values[i] = 255 - Math.min(data[p]!, data[p + 1]!, data[p + Math.min(2, info.channels - 1)]!);
  return { width: info.width, height: info.height, values };
}

/** What may stand in a drawing that is drawn here: nothing that runs or fetches. */
const NEVER = /^(script|foreignobject|iframe|animate.*|set|filter)$/i;
/** Drawing a print takes a second; what takes longer is not meant to be drawn. */
const MOST_SECONDS = 20;

async function svgSeen(text: string): Promise<Outcome<CheckedPrint, PictureRefusal>> {
  const parsed = parseXml(text);
  if (!parsed.ok)
    return refuse({
      code: 'not-an-image',
      message: 'This SVG cannot be read, or holds more than a print does.',
    });
  const root = harmless(parsed.value);
  const view = parseViewBox(root.attributes.viewBox);
  const [width, height] = [svgLength(root.attributes.width, 0, 0), svgLength(root.attributes.height, 0, 0)];
  const page = width && height ? { widthMm: width * MM_PER_PX, heightMm: height * MM_PER_PX } : null;
  const perUnit = page && view ? page.widthMm / view.width : MM_PER_PX;
  try {
    const [ink, bitmapsDpi] = await Promise.all([
      inkOf(sharp(Buffer.from(writeXml(root)), { limitInputPixels: 64_000_000, density: 150 })),
      Promise.all(imagesIn(root).map((image) => densityOfImage(image, perUnit))),
    ]);
    return accept({ page, ink, bitmapsDpi: bitmapsDpi.filter((dpi) => dpi !== null) });
  } catch {
    return refuse({
      code: 'not-an-image',
      message: 'This SVG cannot be drawn here. Send the print as PDF or PNG.',
    });
  }
}

function harmless(element: XmlElement): XmlElement {
  const attributes = Object.fromEntries(
    Object.entries(element.attributes).filter(
      ([name, value]) =>
        !/^on/i.test(name) && !(/href$/i.test(name) && !/^(#|data:image\/(png|jpeg|webp);)/i.test(value)),
    ),
  );
  const children = element.children
    .filter((child) => child.kind !== 'element' || !NEVER.test(child.name.replace(/^.*:/, '')))
    .map((child): XmlNode => (child.kind === 'element' ? harmless(child) : child));
  return { ...element, attributes, children };
}

const imagesIn = (element: XmlElement): XmlElement[] =>
  element.children.flatMap((child) =>
    child.kind !== 'element' ? [] : [...(child.name.endsWith('image') ? [child] : []), ...imagesIn(child)],
  );

/** Pixels an inch of a picture inside a drawing, by its own width; null when that is not told. */
async function densityOfImage({ attributes }: XmlElement, mmPerUnit: number): Promise<number | null> {
  const href = attributes.href ?? attributes['xlink:href'] ?? '';
  const width = svgLength(attributes.width, 0, 0);
  const [, data] = /^data:[^,]*;base64,(.*)$/s.exec(href) ?? [];
  if (!data || !width) return null;
  const told = await sharp(Buffer.from(data, 'base64'))
    .metadata()
    .catch(() => null);
  return told ? told.width / ((width * mmPerUnit) / MM_PER_INCH) : null;
}

const MEDIA_BOX = /\/MediaBox\s*\[\s*(-?[\d.]+)\s+(-?[\d.]+)\s+(-?[\d.]+)\s+(-?[\d.]+)\s*\]/;
const POINTS_PER_INCH = 72;
const MOST_STREAMS = 200;
/** Of all of them together. */
const MOST_INFLATED = 32 * 1024 * 1024;

/** The page of a PDF (ISO 32000-1, 7.7.3.3), in the open or in its packed objects; null when it is not found. */
export function pdfPage(bytes: Uint8Array): Page | null {
  const text = Buffer.from(bytes).toString('latin1');
  const found = MEDIA_BOX.exec(text) ?? packedBox(bytes, text);
  if (!found) return null;
  const [x0, y0, x1, y1] = found.slice(1).map(Number) as [number, number, number, number];
  const mm = (points: number): number => (Math.abs(points) / POINTS_PER_INCH) * MM_PER_INCH;
  return { widthMm: mm(x1 - x0), heightMm: mm(y1 - y0) };
}

function packedBox(bytes: Uint8Array, text: string): RegExpExecArray | null {
  let looked = 0;
  let left = MOST_INFLATED;
  for (const { index, 0: head } of text.matchAll(/\/ObjStm[\s\S]{0,400}?stream\r?\n/g)) {
    looked += 1;
    if (looked > MOST_STREAMS) return null;
    const from = index + head.length;
    const to = text.indexOf('endstream', from);
    try {
      const inflated = inflateSync(bytes.subarray(from, to < 0 ? undefined : to), {
        maxOutputLength: left,
      });
      left -= inflated.length;
      const found = MEDIA_BOX.exec(inflated.toString('latin1'));
      if (found) return found;
    } catch (error) {
      // Packed otherwise, or larger than any list of pages: then the rest is not looked at either.
      if ((error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE') return null;
    }
  }
  return null;
}
