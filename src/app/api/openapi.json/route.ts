import { openApiDocument } from '@/server/api/openApi';

/** GET /api/openapi.json */
export const GET = (): Response => Response.json(openApiDocument());
