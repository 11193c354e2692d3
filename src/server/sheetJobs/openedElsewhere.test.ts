import sharp from 'sharp';

import { IDENTITY, affineMap, type Point } from '@/core/geometry';
import { correctFile } from '@/core/drawing/file';
import { addRig } from '@/server/rigs/writeRig';
import { jobFile } from '@/server/api/scriptSheetJobs';
import { freshDeps } from '@test/database';
import { readByEzdxf, readByHp2xx } from '@test/readers/outside';
import { drawnByPdfium, edgeFrom } from '@test/readers/pdf';
import { CUT_FORMATS, type CutFormat } from '@/core/drawing/formats';

import { createJob } from './createJob';
import { getJob } from './repository';
import { newJobSchema } from './shapes';
import { freezeJob } from './freezeJob';

/*
 * The pair of a job as tools open it that are not ours: the print file drawn by PDFium at 600 pixels an inch, the cut files
 * read by ezdxf, hp2xx and librsvg. Its line runs without a border, so where it was cut the ink must end.
 */

/** PDFium sets pictures down on whole pixels: drawn twice as finely, that is half a pixel of 600 an inch. */
const FINER = 2;
const DPI = 600 * FINER;
let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('opened_elsewhere');
});
afterAll(() => deps.close());

/** A shape without any symmetry, 30 × 22 mm at 600 pixels an inch, dark on white. */
const art = () =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="709" height="520"><rect width="709" height="520" fill="#fff"/>
<path d="M60 460C40 250 160 60 330 90C470 110 640 40 660 210C675 340 560 470 400 440C290 420 180 500 60 460Z" fill="#1b2a38"/></svg>`,
    ),
  )
    .png()
    .toBuffer();

/** Every pixel that librsvg fills when the lines of an SVG are filled, as a grey page. */
async function filledByLibrsvg(svg: string) {
  const filled = svg.replaceAll('fill="none"', 'fill="#000"').replace(/ stroke="[^"]*"/g, ' stroke="none"');
  const { data, info } = await sharp(Buffer.from(filled), { density: Math.sqrt(72 * DPI) })
    .flatten({ background: '#fff' })
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { grey: data, width: info.width, height: info.height };
}

const READERS: Readonly<Record<Exclude<CutFormat, 'svg'>, (content: string) => Point[][]>> = {
  dxf: readByEzdxf,
  hpgl: readByHp2xx,
};

/** Strokes that go on where the one before ended, as one line. */
function joined(strokes: readonly (readonly Point[])[]): Point[][] {
  const lines: Point[][] = [];
  for (const stroke of strokes) {
    const [last, first] = [lines.at(-1)?.at(-1), stroke[0]];
    if (last && first && Math.hypot(last.x - first.x, last.y - first.y) < 1e-6)
      lines.at(-1)!.push(...stroke.slice(1));
    else lines.push([...stroke]);
  }
  return lines;
}

test('the pair registers to a pixel at 600 dpi in every format, and its page is exact to 0.01 mm', async () => {
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Card rig', printer: 'printer', cutter: 'cutter', media: 'labels', settings: [] },
    ...{ sheetWidthMm: 105, sheetHeightMm: 148, marginLeftMm: 6, marginNearMm: 6, toleranceMm: 0.5 },
    ...{ areaWidthMm: 93, areaHeightMm: 136 },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const job = newJobSchema.parse({
    ...{ setupId: added.value.setupId, name: 'pebble', copies: 5 },
    recipe: { size: { widthMm: 30 }, borderMm: 0, closeMm: 0, toleranceMm: 0.01 },
    layout: { witness: false },
  });
  const made = await createJob(deps, 'KT', { art: { bytes: await art(), name: 'pebble.png' }, job });
  if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  await freezeJob(deps, 'KT', { jobId: made.value.jobId, reason: 'the line has to lie on the ink here' });
  const { geometry } = (await getJob(deps, made.value.jobId))!;
  // Turned and not: both ways of lying are looked at.
  expect(geometry.sheets[0]!).toHaveLength(5);
  const file = async (name: string): Promise<Buffer> =>
    Buffer.from(await (await jobFile(deps, made.value.jobId, name, new URLSearchParams())).arrayBuffer());
  const [page] = await drawnByPdfium(await file('print.pdf'), DPI);
  expect(Math.abs(page!.widthMm - 105)).toBeLessThan(0.01);
  expect(Math.abs(page!.heightMm - 148)).toBeLessThan(0.01);

  for (const format of CUT_FORMATS.filter((f) => f !== 'svg')) {
    const lines = joined(READERS[format]((await file(`cut.${format}`)).toString('utf8')));
    const away: { at: number; normal: Point }[] = [];
    for (const line of lines)
      for (let i = 0, k = 0; i < line.length; i += 1) {
        // Plotter units are coarse: which way it runs is told over a third of a millimetre.
        while (k < line.length && Math.hypot(line[k]!.x - line[i]!.x, line[k]!.y - line[i]!.y) < 0.3) k += 1;
        const b = line[k];
        if (!b) break;
        const [a, middle] = [line[i]!, line[(i + k) >> 1]!];
        const length = Math.hypot(b.x - a.x, b.y - a.y);
        const normal = { x: -(b.y - a.y) / length, y: (b.x - a.x) / length };
        const at = edgeFrom(page!, middle, normal);
        if (at !== null) away.push({ at: at / FINER, normal });
      }
    expect(away.length).toBeGreaterThan(200);
    // Within a pixel but at the sharpest corners, and all of it together within a third of one in each direction.
    const far = away.map((p) => Math.abs(p.at)).sort((a, b) => a - b);
    expect(far[Math.floor(0.99 * far.length)]).toBeLessThan(1);
    expect(far.at(-1)).toBeLessThan(1.5);
    const mean = (of: (p: (typeof away)[number]) => number): number =>
      away.reduce((sum, p) => sum + of(p), 0) / away.length;
    expect(Math.abs(2 * mean((p) => p.at * p.normal.x))).toBeLessThan(0.34);
    expect(Math.abs(2 * mean((p) => p.at * p.normal.y))).toBeLessThan(0.34);
  }

  // As SVG: what librsvg fills is what is dark on the print, but for a pixel along the edge.
  const svg = (await file('cut.svg')).toString('utf8');
  const filled = await filledByLibrsvg(svg);
  expect([filled.width, filled.height]).toEqual([page!.width, page!.height]);
  const own = geometry.sheets[0]!.map(({ box }) => box);
  let differing = 0;
  let edge = 0;
  for (const box of own) {
    const px = (mm: number): number => Math.round((mm / 25.4) * DPI);
    for (let y = page!.height - px(box.y1) - 2; y < page!.height - px(box.y0) + 2; y += 1)
      for (let x = px(box.x0) - 2; x < px(box.x1) + 2; x += 1) {
        const i = y * page!.width + x;
        const [cut, ink] = [filled.grey[i]! < 128, page!.grey[i]! < 142];
        if (cut !== ink) differing += 1;
        if (cut !== filled.grey[i + 1]! < 128 || cut !== filled.grey[i + page!.width]! < 128) edge += 1;
      }
  }
  expect(edge).toBeGreaterThan(4000);
  expect(differing / edge).toBeLessThan(0.5);
  // And the other way about: our own reader has the same lines in all three.
  const asDxf = correctFile(svg, affineMap(IDENTITY), 'dxf');
  expect(asDxf.ok && asDxf.value.content).toContain('kiss-cut');
});
