import { twoSidesForScript, twoSidesRequestSchema } from '@/server/api/scriptArtwork';
import { jsonRoute } from '@/server/api/scriptRequest';

export const dynamic = 'force-dynamic';

/** POST /api/two-sides: see docs/api.md. */
export const POST = jsonRoute(twoSidesRequestSchema, twoSidesForScript);
