import { z } from 'zod';

import type { Scene } from '@/core/drawing';
import { correctSvg, sceneToSvg } from '@/core/formats/svg';
import { sceneToPdf } from '@/core/formats/pdf/sceneToPdf';
import { apiError, unavailable } from '@/server/apiError';
import { requestDeps } from '@/server/context';
import { idSchema } from '@/server/schemas';
import { passFileTransform } from '@/server/loadSession';
import { getSheetByNumber, sheetCutScene, sheetPrintScene } from '@/server/sheets';

export const dynamic = 'force-dynamic';

const Query = z.object({
  layer: z.enum(['print', 'cut'], '“layer” is “print” or “cut”.').default('print'),
  set: z.enum(['1', '2'], '“set” is 1 (A) or 2 (B).').default('1'),
  pass: idSchema.optional(),
});

/** GET /api/proof-sheets/0147.pdf?layer=print · 0147.svg?layer=print|cut&set=1|2 */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ file: string }> },
): Promise<Response> {
  const match = /^(\d{1,9})\.(pdf|svg)$/.exec((await params).file);
  if (!match)
    return apiError(404, 'no-such-file', 'Ask for a sheet number with .pdf or .svg, for example 0147.pdf.');
  const query = Query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success) {
    const issue = query.error.issues[0]!;
    return apiError(400, 'invalid-query', issue.message, String(issue.path[0]));
  }
  const { layer, set, pass } = query.data;
  const format = match[2] as 'pdf' | 'svg';
  if (layer === 'cut' && format === 'pdf')
    return apiError(400, 'no-pdf-to-cut', 'Cut lines come as SVG.', 'layer');
  try {
    const deps = await requestDeps();
    const sheet = await getSheetByNumber(deps, Number(match[1]));
    if (!sheet) return apiError(404, 'no-such-sheet', `No proof sheet ${match[1]} is in the log.`);
    if (set === '2' && !sheet.geometry.spec.secondSet)
      return apiError(404, 'no-second-set', `Sheet ${sheet.label} has no set B.`, 'set');
    const name = `proof-${sheet.label}-${layer}${layer === 'cut' ? (set === '1' ? '-A' : '-B') : ''}.${format}`;
    if (layer === 'print') return file(await written(sheetPrintScene(sheet), format), format, name);
    const svg = sceneToSvg(sheetCutScene(sheet, set === '1' ? 1 : 2));
    const transform = pass ? await passFileTransform(deps, pass) : null;
    if (!transform) return file(svg, 'svg', name);
    const corrected = correctSvg(svg, transform);
    if (!corrected.ok) throw new Error(`own cut file refused: ${corrected.refusal.code}`);
    return file(corrected.value.svg, 'svg', name.replace('.svg', '-corrected.svg'));
  } catch (error) {
    console.error('red plumb  /api/proof-sheets:', error instanceof Error ? error.message : error);
    return unavailable();
  }
}

const written = async (scene: Scene, format: 'pdf' | 'svg'): Promise<string | Buffer> =>
  format === 'pdf' ? sceneToPdf(scene) : sceneToSvg(scene);

function file(content: string | Buffer, format: 'pdf' | 'svg', name: string): Response {
  return new Response(typeof content === 'string' ? content : new Uint8Array(content), {
    headers: {
      'Content-Type': format === 'pdf' ? 'application/pdf' : 'image/svg+xml',
      'Content-Disposition': `inline; filename="${name}"`,
      'Cache-Control': 'no-store',
    },
  });
}
