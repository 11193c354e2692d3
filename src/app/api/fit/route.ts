import { heavy } from '@/server/heavy/pool';
import { fitRequestSchema } from '@/server/api/scriptFit';
import { jsonRoute } from '@/server/api/scriptRequest';

export const dynamic = 'force-dynamic';

/** POST /api/fit: see docs/api.md. */
export const POST = jsonRoute(fitRequestSchema, (body) => heavy('fit', body));
