import sharp from 'sharp';

import { densityOf, type Picture } from '@/core/artwork';
import { accept, refuse, type Outcome } from '@/core/outcome';

/* Pictures come from outside: they are looked at before they are decoded, and only as what they are allowed to be. */

export const PICTURE_LIMIT_BYTES = 40 * 1024 * 1024;
/** 48 megapixels: an A4 sheet at 600 dpi has 35. */
export const MOST_PIXELS = 48_000_000;
/** Enough of a file to find what it says of its density. */
const HEAD_BYTES = 4096;
const FORMATS = ['png', 'jpeg', 'tiff', 'webp'] as const;

export type DecodedPicture = Picture & PictureHead;

export type PictureRefusal =
  | { readonly code: 'not-an-image'; readonly message: string }
  | { readonly code: 'too-large'; readonly message: string };

const notAnImage = (message: string) => refuse({ code: 'not-an-image', message } as const);

/** What a picture says of itself, the right way up. */
export interface PictureHead {
  readonly width: number;
  readonly height: number;
  /** As the file says; null when it does not. */
  readonly dpi: number | null;
}

/** Looks at a picture without decoding it. Refuses as `decodePicture` does. */
export async function pictureHead(bytes: Uint8Array): Promise<Outcome<PictureHead, PictureRefusal>> {
  if (bytes.length > PICTURE_LIMIT_BYTES)
    return refuse({
      code: 'too-large',
      message: `A picture may have at most ${PICTURE_LIMIT_BYTES / 1048576} MB.`,
    });
  try {
    const { format, density, autoOrient } = await sharp(bytes, {
      limitInputPixels: false,
      pages: 1,
    }).metadata();
    const { width, height } = autoOrient;
    if (!FORMATS.includes(format as (typeof FORMATS)[number]))
      return notAnImage('This is no picture that can be read: PNG, JPEG, TIFF or WebP.');
    if (width * height > MOST_PIXELS)
      return refuse({
        code: 'too-large',
        message: `A picture of ${width} × ${height} pixels is more than can be looked at at once: at most ${MOST_PIXELS / 1e6} megapixels. Scale it down first.`,
      });
    // To the last digit where the file's own head says it; 72 is what programs write that know of none.
    const told = density !== undefined && density > 72 && density <= 10_000 ? density : null;
    const dpi = densityOf(bytes.subarray(0, HEAD_BYTES)) ?? told;
    return accept({ width, height, dpi });
  } catch {
    return notAnImage('This is no picture that can be read: PNG, JPEG, TIFF or WebP.');
  }
}

/**
 * A picture as sRGB pixels, the right way up, with what it says of its density.
 *
 * Refuses  not-an-image (no PNG, JPEG, TIFF or WebP, or broken), too-large by bytes or by pixels, before it is decoded.
 */
export async function decodePicture(bytes: Uint8Array): Promise<Outcome<DecodedPicture, PictureRefusal>> {
  const head = await pictureHead(bytes);
  if (!head.ok) return head;
  try {
    const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error', pages: 1 })
      .autoOrient()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    if (info.channels !== 4) return notAnImage('The colours of this picture cannot be read. Save it as RGB.');
    return accept({ width: info.width, height: info.height, rgba: data, dpi: head.value.dpi });
  } catch {
    return notAnImage('This picture is cut off or broken. Save it again and send it whole.');
  }
}
