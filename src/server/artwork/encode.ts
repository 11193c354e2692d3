import sharp from 'sharp';

/* Pictures of our own making as PNG. */

const RAW_CHANNELS = 4;

/** Pixels as a plain picture, its density told. */
export function rawPng(
  {
    width,
    height,
    rgba,
  }: { readonly width: number; readonly height: number; readonly rgba: Uint8Array | Uint8ClampedArray },
  dpi: number | null,
): Promise<Buffer> {
  const png = sharp(rgba, { raw: { width, height, channels: RAW_CHANNELS } }).png({ compressionLevel: 3 });
  return (dpi ? png.withMetadata({ density: dpi }) : png).toBuffer();
}

/** Artwork as it came, the right way up. */
export function artPng(bytes: Uint8Array, dpi: number | null): Promise<Buffer> {
  const png = sharp(bytes).autoOrient().png({ compressionLevel: 3 });
  return (dpi ? png.withMetadata({ density: dpi }) : png).toBuffer();
}

/** Pixels as they are printed: white is no ink, what is clear stays paper, and the file opens everywhere. */
export const printedPng = ({
  width,
  height,
  rgba,
}: {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8Array | Uint8ClampedArray;
}): Promise<Buffer> =>
  sharp(rgba, { raw: { width, height, channels: RAW_CHANNELS } })
    .flatten({ background: '#ffffff' })
    .png({ compressionLevel: 6 })
    .toBuffer();

/** Side of a preview at most, pixels. */
const PREVIEW_PX = 1600;

/** A room of a picture's own axes, as shares of it from its upper left corner; outside of it white. */
export interface Share {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** What of a picture lies in a room, for the screen. */
export async function previewPng(bytes: Uint8Array, share: Share): Promise<Buffer> {
  const { width = 1, height = 1 } = await sharp(bytes).metadata();
  const left = Math.round(share.left * width);
  const top = Math.round(share.top * height);
  const size = {
    width: Math.max(1, Math.round(share.width * width)),
    height: Math.max(1, Math.round(share.height * height)),
  };
  const beyond = {
    ...{ left: Math.max(0, -left), top: Math.max(0, -top) },
    right: Math.max(0, left + size.width - width),
    bottom: Math.max(0, top + size.height - height),
  };
  const whole = await sharp(bytes)
    .extend({ ...beyond, background: '#ffffff' })
    .toBuffer();
  return sharp(whole)
    .extract({ left: Math.max(0, left), top: Math.max(0, top), ...size })
    .resize({ width: PREVIEW_PX, height: PREVIEW_PX, fit: 'inside', withoutEnlargement: true })
    .png()
    .toBuffer();
}
