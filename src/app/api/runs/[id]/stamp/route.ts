import { apiError, unavailable } from '@/server/apiError';
import { requestDeps } from '@/server/context';
import { getRun, runStamp } from '@/server/runs';
import { idSchema } from '@/server/schemas';

export const dynamic = 'force-dynamic';

/** Changes when somebody does something on the run: open pages ask for it and look again. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) return apiError(404, 'no-such-run', 'This is not the id of a run.');
  try {
    const run = await getRun(await requestDeps(), id.data);
    if (!run) return apiError(404, 'no-such-run', 'No run of this id is in the log.');
    return Response.json({ stamp: runStamp(run) }, { headers: { 'Cache-Control': 'no-store' } });
  } catch (error) {
    console.error('red plumb  /api/runs/stamp:', error instanceof Error ? error.message : error);
    return unavailable();
  }
}
