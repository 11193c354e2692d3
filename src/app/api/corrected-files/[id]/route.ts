import { apiError, unavailable } from '@/server/apiError';
import { CUT_FORMATS } from '@/core/formats/file';
import { CONTENT_TYPES } from '@/server/correctFile';
import { requestDeps } from '@/server/context';
import { correctedFileById } from '@/server/logbook';
import { idSchema } from '@/server/schemas';

export const dynamic = 'force-dynamic';

/** A corrected cut file as it was made, from the log. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) return apiError(404, 'no-such-file', 'This is not the id of a file in the log.');
  try {
    const found = await correctedFileById(await requestDeps(), id.data);
    if (!found) return apiError(404, 'no-such-file', 'No file of this id is in the log.');
    const name = found.fileName.replace(/[^\w.-]+/g, '_').replace(/(\.[a-z0-9]{1,5})?$/i, '-corrected$1');
    const format = CUT_FORMATS.find((f) => name.endsWith(`.${f}`)) ?? 'svg';
    return new Response(found.content, {
      headers: {
        'Content-Type': CONTENT_TYPES[format],
        'Content-Disposition': `attachment; filename="${name}"`,
        'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
      },
    });
  } catch (error) {
    console.error('red plumb  /api/corrected-files:', error instanceof Error ? error.message : error);
    return unavailable();
  }
}
