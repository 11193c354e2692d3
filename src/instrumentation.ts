/** What a page or a route throws past our own handling, with its cause, into the log. */
export async function onRequestError(
  error: unknown,
  request: { path: string; headers: object },
): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { failed } = await import('./server/base/failure');
  const number = (request.headers as Record<string, string | undefined>)['x-request-id'] ?? 'none';
  failed(error, request.path, number);
}
