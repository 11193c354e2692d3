import { apiError, unavailable } from '@/server/apiError';
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
    const name = found.fileName.replace(/[^\w.-]+/g, '_').replace(/(\.svg)?$/i, '-corrected.svg');
    return new Response(found.content, {
      headers: {
        'Content-Type': 'image/svg+xml',
        'Content-Disposition': `attachment; filename="${name}"`,
        'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
      },
    });
  } catch (error) {
    console.error('red plumb  /api/corrected-files:', error instanceof Error ? error.message : error);
    return unavailable();
  }
}
