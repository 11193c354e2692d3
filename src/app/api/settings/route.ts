import { heavy } from '@/server/heavy/pool';
import { jsonRoute } from '@/server/api/scriptRequest';
import { settingsRequestSchema } from '@/server/api/scriptSettings';

export const dynamic = 'force-dynamic';

/** POST /api/settings: see docs/api.md. */
export const POST = jsonRoute(settingsRequestSchema, (body) => heavy('settings', body));
