/** Errors of the script interface: 4xx with code, message and, where there is one, the field. */
export const apiError = (status: number, code: string, message: string, field?: string): Response =>
  Response.json({ error: { code, message, ...(field ? { field } : {}) } }, { status });

/** The database is away: say so, and that trying again is right. */
export const unavailable = (): Response =>
  Response.json(
    { error: { code: 'unavailable', message: 'The database does not answer. Try again in a moment.' } },
    { status: 503, headers: { 'Retry-After': '3' } },
  );
