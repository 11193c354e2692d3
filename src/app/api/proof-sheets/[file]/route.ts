import { z } from 'zod';

import { pageSvg } from '@/core/drawing/svg';
import { inFrame, NO_SVG } from '@/core/daily';
import { mapPath, type PageDrawing } from '@/core/drawing';
import { writeDrawing } from '@/core/drawing/file';
import { CUT_FORMATS, FORMAT_WORDS, mediaTypeOf, type CutFormat } from '@/core/drawing/formats';
import { accept } from '@/core/outcome';
import { affineMap, invertMap, type Affine, type Rect } from '@/core/geometry';
import { pagesToPdf } from '@/core/drawing/pdf/pages';
import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { passFileTransform } from '@/server/sessions/loadSession';
import {
  getSheetByNumber,
  sheetCutLayer,
  sheetFileMap,
  sheetFormats,
  sheetPrintLayer,
  wholeSheet,
} from '@/server/sessions/sheets';
import { getSetup } from '@/server/setups/repository';

export const dynamic = 'force-dynamic';

const Query = z.object({
  layer: z.enum(['print', 'cut'], '“layer” is “print” or “cut”.').default('print'),
  set: z.enum(['1', '2'], '“set” is 1 (A) or 2 (B).').default('1'),
  pass: idSchema.optional(),
});

const ASKED = new RegExp(`^(\\d{1,9})\\.(pdf|${CUT_FORMATS.join('|')})$`);

/** GET /api/proof-sheets/0147.pdf?layer=print · 0147.{svg|dxf|hpgl}?layer=cut&set=1|2 */
export const GET = guarded(
  'proof sheet',
  async (request: Request, { params }: { params: Promise<{ file: string }> }) => {
    const match = ASKED.exec((await params).file);
    if (!match)
      return apiError(
        404,
        'no-such-file',
        `Ask for a sheet number with .pdf, .${CUT_FORMATS.join(', .')}, for example 0147.pdf.`,
      );
    const query = Query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success) {
      const issue = query.error.issues[0]!;
      return apiError(400, 'invalid-query', issue.message, String(issue.path[0]));
    }
    const { layer, set, pass } = query.data;
    const format = match[2] as CutFormat | 'pdf';
    if (layer === 'cut' && format === 'pdf')
      return apiError(400, 'no-pdf-to-cut', `Cut lines come as ${FORMAT_WORDS}.`, 'layer');
    if (layer === 'print' && format !== 'pdf' && format !== 'svg')
      return apiError(400, 'no-print-layer', 'The print layer comes as PDF or SVG.', 'layer');
    const deps = requestDeps();
    const sheet = await getSheetByNumber(deps, Number(match[1]));
    if (!sheet) return apiError(404, 'no-such-sheet', `No proof sheet ${match[1]} is in the log.`);
    if (set === '2' && !sheet.geometry.spec.secondSet)
      return apiError(404, 'no-second-set', `Sheet ${sheet.label} has no set B.`, 'set');
    const name = `proof-${sheet.label}-${layer}${layer === 'cut' ? (set === '1' ? '-A' : '-B') : ''}.${format}`;
    if (layer === 'print') {
      const drawing = sheetPrintLayer(sheet);
      return format === 'pdf'
        ? file(await pagesToPdf([{ drawing, pictures: [] }]), 'application/pdf', name)
        : file(pageSvg(drawing), mediaTypeOf(format), name);
    }
    const to = format as CutFormat;
    const drawn = sheetCutLayer(sheet, set === '1' ? 1 : 2);
    const carried = pass
      ? await passFileTransform(deps, pass, { sheetId: sheet.id, set: Number(set) })
      : accept(null);
    if (!carried.ok)
      return apiError(
        404,
        'no-such-pass',
        `No pass of this id is a cut of set ${set === '1' ? 'A' : 'B'} of sheet ${sheet.label}.`,
        'pass',
      );
    const transform = carried.value;
    const setup = (await getSetup(deps, sheet.setupId))!;
    const lies = sheetFileMap(sheet, setup);
    const whole = wholeSheet(sheet);
    if (!sheetFormats(sheet, setup).includes(to)) return apiError(409, 'below-zero', NO_SVG);
    const named = transform ? name.replace(`.${to}`, `-corrected.${to}`) : name;
    return file(cutFile(drawn, to, transform, lies, whole), mediaTypeOf(to), named);
  },
);

/** One geometry, three ways of writing it: as drawn or corrected, in the frame that the rig’s cutter takes. */
function cutFile(
  drawn: PageDrawing,
  to: CutFormat,
  transform: Affine | null,
  lies: Affine | null,
  whole: Rect,
): string {
  const undo = transform && invertMap(affineMap(transform));
  const drawing = undo ? { ...drawn, paths: drawn.paths.map((p) => mapPath(p, undo)) } : drawn;
  return writeDrawing(lies ? inFrame(drawing, lies, whole) : drawing, to);
}

function file(content: string | Buffer, type: string, name: string): Response {
  return new Response(typeof content === 'string' ? content : new Uint8Array(content), {
    headers: {
      'Content-Type': type,
      'Content-Disposition': `inline; filename="${name}"`,
      'Cache-Control': 'no-store',
    },
  });
}
