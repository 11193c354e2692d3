import { heavy } from '@/server/heavy/pool';
import { jsonRoute } from '@/server/scriptRequest';
import { settingsRequestSchema } from '@/server/scriptSettings';

export const dynamic = 'force-dynamic';

/** POST /api/settings: see docs/api.md. */
export const POST = jsonRoute(settingsRequestSchema, (body) => heavy('settings', body));
