import { apiError, unavailable } from '@/server/apiError';
import { requestDeps } from '@/server/context';
import { runArchive } from '@/server/runFiles';
import { idSchema } from '@/server/schemas';

export const dynamic = 'force-dynamic';

/** Every section's cut file of a run in one archive. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) return apiError(404, 'no-such-run', 'This is not the id of a run.');
  try {
    const made = await runArchive(await requestDeps(), id.data);
    if (!made.ok)
      return made.refusal.code === 'refused'
        ? apiError(409, 'not-released', made.refusal.message)
        : apiError(404, 'no-such-run', 'No run of this id is in the log.');
    return new Response(Buffer.from(made.value.bytes), {
      headers: {
        'Content-Type': 'application/zip',
        'Content-Disposition': `attachment; filename="${made.value.fileName}"`,
      },
    });
  } catch (error) {
    console.error('red plumb  /api/runs/archive:', error instanceof Error ? error.message : error);
    return unavailable();
  }
}
