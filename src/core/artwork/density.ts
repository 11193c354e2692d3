/** The densities that a picture file itself gives are believed between these; 72 is what programs write that know of none. */
const LEAST_DPI = 73;
const MOST_DPI = 10_000;
const PER_METRE = 0.0254;

/**
 * Pixels per inch as a PNG (its pHYs chunk) or a JPEG (its JFIF header) says; null when it does not, or for other files.
 * Looks at the head of the file only.
 */
export function densityOf(head: Uint8Array): number | null {
  const told = pngDensity(head) ?? jfifDensity(head);
  return told !== null && told >= LEAST_DPI && told <= MOST_DPI ? told : null;
}

const viewOf = (b: Uint8Array): DataView => new DataView(b.buffer, b.byteOffset, b.byteLength);
const nameAt = (b: Uint8Array, at: number): string => String.fromCharCode(...b.subarray(at, at + 4));

/** PNG specification (W3C, third edition), 5.3 and 11.3.4.3. */
function pngDensity(b: Uint8Array): number | null {
  if (nameAt(b, 0) !== '\x89PNG') return null;
  const view = viewOf(b);
  for (let at = 8; at + 21 <= b.length;) {
    const length = view.getUint32(at);
    const name = nameAt(b, at + 4);
    if (name === 'pHYs' && length === 9) {
      const perMetre = view.getUint32(at + 8);
      return b[at + 16] === 1 ? Math.round(perMetre * PER_METRE * 100) / 100 : null;
    }
    if (name === 'IDAT') return null;
    at += 12 + length;
  }
  return null;
}

/** JPEG File Interchange Format (ITU-T T.871), 10.1. */
function jfifDensity(b: Uint8Array): number | null {
  if (
    b.length < 18 ||
    b[0] !== 0xff ||
    b[1] !== 0xd8 ||
    b[2] !== 0xff ||
    b[3] !== 0xe0 ||
    nameAt(b, 6) !== 'JFIF'
  )
    return null;
  const across = viewOf(b).getUint16(14);
  if (b[13] === 1) return across;
  return b[13] === 2 ? across * 2.54 : null;
}
