export const dynamic = 'force-dynamic';

/** Says that the server answers; asks nothing of the database. */
export function GET(): Response {
  return Response.json({ ok: true });
}
