import { z } from 'zod';

import type { Scene } from '@/core/drawing';
import { sceneToSvg } from '@/core/formats/svg';
import { Notes } from '@/core/formats/notes';
import { writeDxf } from '@/core/formats/dxf';
import { correctFile, sceneToDrawing, type CutFormat } from '@/core/formats/file';
import { writeHpgl } from '@/core/formats/hpgl';
import { affineMap } from '@/core/geometry';
import { CONTENT_TYPES } from '@/server/files/correctFile';
import { sceneToPdf } from '@/core/formats/pdf/sceneToPdf';
import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { passFileTransform } from '@/server/sessions/loadSession';
import { getSheetByNumber, sheetCutScene, sheetPrintScene } from '@/server/sessions/sheets';

export const dynamic = 'force-dynamic';

const Query = z.object({
  layer: z.enum(['print', 'cut'], '“layer” is “print” or “cut”.').default('print'),
  set: z.enum(['1', '2'], '“set” is 1 (A) or 2 (B).').default('1'),
  pass: idSchema.optional(),
});

/** GET /api/proof-sheets/0147.pdf?layer=print · 0147.{svg|dxf|hpgl}?layer=cut&set=1|2 */
export const GET = guarded(
  'proof sheet',
  async (request: Request, { params }: { params: Promise<{ file: string }> }) => {
    const match = /^(\d{1,9})\.(pdf|svg|dxf|hpgl)$/.exec((await params).file);
    if (!match)
      return apiError(
        404,
        'no-such-file',
        'Ask for a sheet number with .pdf, .svg, .dxf or .hpgl, for example 0147.pdf.',
      );
    const query = Query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success) {
      const issue = query.error.issues[0]!;
      return apiError(400, 'invalid-query', issue.message, String(issue.path[0]));
    }
    const { layer, set, pass } = query.data;
    const format = match[2] as CutFormat | 'pdf';
    if (layer === 'cut' && format === 'pdf')
      return apiError(400, 'no-pdf-to-cut', 'Cut lines come as SVG, DXF or HPGL.', 'layer');
    if (layer === 'print' && format !== 'pdf' && format !== 'svg')
      return apiError(400, 'no-print-layer', 'The print layer comes as PDF or SVG.', 'layer');
    const deps = requestDeps();
    const sheet = await getSheetByNumber(deps, Number(match[1]));
    if (!sheet) return apiError(404, 'no-such-sheet', `No proof sheet ${match[1]} is in the log.`);
    if (set === '2' && !sheet.geometry.spec.secondSet)
      return apiError(404, 'no-second-set', `Sheet ${sheet.label} has no set B.`, 'set');
    const name = `proof-${sheet.label}-${layer}${layer === 'cut' ? (set === '1' ? '-A' : '-B') : ''}.${format}`;
    if (layer === 'print') {
      const scene = sheetPrintScene(sheet);
      return format === 'pdf'
        ? file(await sceneToPdf(scene), 'application/pdf', name)
        : file(sceneToSvg(scene), CONTENT_TYPES.svg, name);
    }
    const to = format as CutFormat;
    const scene = sheetCutScene(sheet, set === '1' ? 1 : 2);
    const transform = pass ? await passFileTransform(deps, pass) : null;
    if (!transform) return file(cutFile(scene, to), CONTENT_TYPES[to], name);
    const corrected = correctFile(sceneToSvg(scene), affineMap(transform), to);
    if (!corrected.ok) throw new Error(`own cut file refused: ${corrected.refusal.code}`);
    return file(corrected.value.content, CONTENT_TYPES[to], name.replace(`.${to}`, `-corrected.${to}`));
  },
);

/** One geometry, three ways of writing it. */
function cutFile(scene: Scene, to: CutFormat): string {
  if (to === 'svg') return sceneToSvg(scene);
  const drawing = sceneToDrawing(scene);
  return to === 'dxf' ? writeDxf(drawing, new Notes()) : writeHpgl(drawing, new Notes());
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
