import { openApiDocument } from '@/server/openApi';

/** GET /api/openapi.json */
export const GET = (): Response => Response.json(openApiDocument());
