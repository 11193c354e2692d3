import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';
import { download } from '@/server/base/download';
import { idSchema } from '@/server/base/shapes';
import { getRun } from '@/server/runs/repository';
import { stripPdf, stripSvg } from '@/server/runs/witnessStrip';

export const dynamic = 'force-dynamic';

/** GET: the print layer of a run's witness strip: `strip.pdf`, a page a section, or `section-3.svg`. */
export const GET = guarded(
  'run witness',
  async (_: Request, { params }: { params: Promise<{ id: string; file: string }> }) => {
    const { id, file } = await params;
    const known = idSchema.safeParse(id);
    const run = known.success ? await getRun(requestDeps(), known.data) : null;
    if (run?.witnessXMm == null) return apiError(404, 'no-strip', 'This run has no witness strip.');
    if (file === 'strip.pdf')
      return download(new Uint8Array(await stripPdf(run)), 'application/pdf', `${run.label}_witnesses.pdf`);
    const index = Number(/^section-(\d{1,4})\.svg$/.exec(file)?.[1] ?? 0);
    if (!run.sections[index - 1])
      return apiError(404, 'no-such-file', 'Ask for strip.pdf, or for section-1.svg and so on.');
    return download(stripSvg(run, index), 'image/svg+xml', `${run.label}_witnesses-${index}.svg`);
  },
);
