import { apiError, guarded } from './apiError';
import { requestDeps } from './context';
import type { Deps } from './deps';
import { idSchema } from './shapes';

/** A route that tells a counter of a run or a session by its id. */
export const stampRoute = (what: string, stampOf: (deps: Deps, id: string) => Promise<number | null>) =>
  guarded(`${what} stamp`, async (_: Request, { params }: { params: Promise<{ id: string }> }) => {
    const id = idSchema.safeParse((await params).id);
    const stamp = id.success ? await stampOf(requestDeps(), id.data) : null;
    return stamp === null
      ? apiError(404, `no-such-${what}`, `No ${what} of this id is in the log.`)
      : Response.json({ stamp }, { headers: { 'Cache-Control': 'no-store' } });
  });
