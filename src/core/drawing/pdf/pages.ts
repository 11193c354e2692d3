import PDFDocument from 'pdfkit';

import { mapPath } from '..';
import type { Affine, Point, Rect } from '../../geometry';
import { colourOf } from '../ink';
import type { DrawnPath, DrawnWords, PageDrawing } from '../model';
import { pathData } from '../svg/pathData';

/** PDF user space: 1/72 in (ISO 32000-1, 8.3.2.3). */
const POINTS_PER_MM = 72 / 25.4;

/** The largest page of plain PDF, points; longer ones need a larger user unit (ISO 32000-1, 14.11.2 and annex C). */
const LONGEST_POINTS = 14_400;

/**
 * A picture on a page: its own lower-left corner and axes, mm, put onto the page; nothing of it shows outside `clip`, a
 * rectangle or closed lines of the page.
 */
export interface PlacedPicture {
  /** PNG or JPEG; one and the same buffer is embedded once, pixel for pixel. */
  readonly bytes: Uint8Array;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly map: Affine;
  readonly clip: Rect | readonly (readonly Point[])[];
}

export interface PdfPage {
  readonly drawing: PageDrawing;
  /** Under everything else. */
  readonly pictures: readonly PlacedPicture[];
  /** All of it is moved so far on the page, mm to the right and up: against where a printer puts it. */
  readonly moved?: Point | undefined;
}

/** Figures on a page, mm: to a nanometre. */
const PLACES = 6;

/** Pages of one size as a PDF at exact size. Node only: the PDF library reads its font metrics from disk. */
export function pagesToPdf(pages: readonly PdfPage[]): Promise<Buffer> {
  const { page: size, title } = pages[0]!.drawing;
  const points = POINTS_PER_MM * Math.max(size.widthMm, size.heightMm);
  const userUnit = Math.max(1, Math.ceil(points / LONGEST_POINTS));
  const perMm = POINTS_PER_MM / userUnit;
  const doc = new PDFDocument({
    size: [size.widthMm * perMm, size.heightMm * perMm],
    // UserUnit came with PDF 1.6.
    ...(userUnit > 1 ? { userUnit, pdfVersion: '1.7' as const } : {}),
    margin: 0,
    autoFirstPage: false,
    info: { Title: title, Creator: 'Red Plumb' },
  });
  // Viewers and drivers are asked not to fit the page to the paper; the library ends this object itself.
  (doc as unknown as { _root: { data: Record<string, unknown> } })._root.data.ViewerPreferences = doc.ref({
    PrintScaling: 'None',
  });
  const done = new Promise<Buffer>((resolve, reject) => {
    const chunks: Buffer[] = [];
    doc.on('data', (chunk: Buffer) => chunks.push(chunk));
    doc.on('end', () => resolve(Buffer.concat(chunks)));
    doc.on('error', reject);
  });
  const opened = new Map<Uint8Array, unknown>();
  for (const page of pages) {
    doc.addPage();
    doc.transform(perMm, 0, 0, perMm, perMm * (page.moved?.x ?? 0), -perMm * (page.moved?.y ?? 0));
    for (const picture of page.pictures) {
      // Opened once, so that it is embedded once; the library's types do not name this.
      const image = opened.get(picture.bytes) ?? (doc as unknown as Opens).openImage(picture.bytes);
      opened.set(picture.bytes, image);
      place(doc, image, picture, size.heightMm);
    }
    const { paths, words, page: own } = page.drawing;
    for (const path of paths) draw(doc, path, own.heightMm);
    for (const said of words) drawWords(doc, said, own.heightMm);
  }
  doc.end();
  return done;
}

interface Opens {
  openImage(bytes: Uint8Array): unknown;
}

function place(doc: PDFKit.PDFDocument, image: unknown, picture: PlacedPicture, pageMm: number): void {
  const { widthMm, heightMm: h, map: m, clip } = picture;
  doc.save();
  if ('x0' in clip) doc.rect(clip.x0, pageMm - clip.y1, clip.x1 - clip.x0, clip.y1 - clip.y0);
  else for (const line of clip) doc.polygon(...line.map((p): [number, number] => [p.x, pageMm - p.y]));
  doc.clip();
  // The page counts downwards, and so does a picture from its upper-left corner.
  doc.transform(m.a11, -m.a21, -m.a12, m.a22, m.a12 * h + m.tx, pageMm - m.a22 * h - m.ty);
  doc.image(image as Buffer, 0, 0, { width: widthMm, height: h });
  doc.restore();
}

function draw(doc: PDFKit.PDFDocument, path: DrawnPath, height: number): void {
  const toPage = { kind: 'affine', a11: 1, a12: 0, a21: 0, a22: -1, tx: 0, ty: height } as const;
  const colour = colourOf(path) ?? '#000000';
  doc.path(pathData(mapPath(path, toPage), PLACES));
  if (path.paint?.fill) doc.fill(colour);
  else doc.lineWidth(path.paint?.widthMm ?? 0).stroke(colour);
}

function drawWords(doc: PDFKit.PDFDocument, said: DrawnWords, height: number): void {
  doc
    .font(said.bold ? 'Helvetica-Bold' : 'Helvetica')
    .fontSize(said.sizeMm)
    .fillColor(colourOf(said)!);
  // The standard fonts have no true minus sign; the en dash has its width and height.
  const words = said.text.replace(/\u2212/g, '\u2013');
  const width = doc.widthOfString(words);
  const back = said.anchor === 'middle' ? width / 2 : said.anchor === 'end' ? width : 0;
  doc.save();
  doc.translate(said.at.x, height - said.at.y);
  if (said.turnDeg) doc.rotate(-said.turnDeg);
  doc.text(words, -back, 0, { baseline: 'alphabetic', lineBreak: false });
  doc.restore();
}
