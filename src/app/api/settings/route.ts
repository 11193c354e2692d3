import { jsonRoute } from '@/server/scriptRequest';
import { settingsForScript, settingsRequestSchema } from '@/server/scriptSettings';

export const dynamic = 'force-dynamic';

/** POST /api/settings: see docs/api.md. */
export const POST = jsonRoute(settingsRequestSchema, settingsForScript);
