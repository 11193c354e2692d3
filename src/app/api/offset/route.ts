import { offsetRequestSchema } from '@/server/api/scriptArtwork';
import { jsonRoute } from '@/server/api/scriptRequest';
import { heavy } from '@/server/heavy/pool';

export const dynamic = 'force-dynamic';

/** POST /api/offset: see docs/api.md. */
export const POST = jsonRoute(offsetRequestSchema, (body) => heavy('offset', body));
