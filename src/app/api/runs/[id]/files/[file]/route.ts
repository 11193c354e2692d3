import { apiError, unavailable } from '@/server/apiError';
import { CONTENT_TYPES } from '@/server/correctFile';
import { requestDeps } from '@/server/context';
import { getRunFile } from '@/server/runFiles';
import { idSchema } from '@/server/schemas';

export const dynamic = 'force-dynamic';

/** A section's cut file as it was made, from the log. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; file: string }> },
): Promise<Response> {
  const { id, file } = await params;
  const ids = [idSchema.safeParse(id), idSchema.safeParse(file)] as const;
  if (!ids[0].success || !ids[1].success)
    return apiError(404, 'no-such-file', 'This is not the id of a run and a file.');
  try {
    const found = await getRunFile(await requestDeps(), ids[0].data, ids[1].data);
    if (!found) return apiError(404, 'no-such-file', 'No file of this id is in the log of this run.');
    return new Response(found.content, {
      headers: {
        'Content-Type': CONTENT_TYPES[found.format],
        'Content-Disposition': `attachment; filename="${found.fileName}"`,
        'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
      },
    });
  } catch (error) {
    console.error('red plumb  /api/runs/files:', error instanceof Error ? error.message : error);
    return unavailable();
  }
}
