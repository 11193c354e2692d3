import { pagesToPdf, type PdfPage } from '@/core/drawing/pdf/pages';

/** Pages as a PDF. A picture that many pages share comes over once and is embedded once. */
export async function printPages(pages: readonly PdfPage[]): Promise<Uint8Array> {
  // On its way to a thread a Buffer becomes a plain array; the same one stays the same.
  const known = new Map<Uint8Array, Buffer>();
  const asBuffer = (bytes: Uint8Array): Buffer => {
    const own = known.get(bytes) ?? Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    known.set(bytes, own);
    return own;
  };
  return pagesToPdf(
    pages.map(({ pictures, ...page }) => ({
      ...page,
      pictures: pictures.map((p) => ({ ...p, bytes: asBuffer(p.bytes) })),
    })),
  );
}
