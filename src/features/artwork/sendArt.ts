import type { ActionResult } from '@/features/forms/keeping';

/** Sends artwork with a field of JSON beside it; what came of it as a form's action would say it. Throws when no answer came. */
export async function sendArt<T>(
  address: string,
  file: File,
  fields: Readonly<Record<string, string>>,
): Promise<ActionResult<T>> {
  const form = new FormData();
  form.set('image', file);
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  const answer = await fetch(address, { method: 'POST', body: form });
  const told = (await answer.json().catch(() => null)) as
    (T & { error?: { code: string; message: string } }) | null;
  if (answer.ok && told && !told.error) return { ok: true, value: told };
  const code = told?.error?.code;
  return {
    ok: false,
    said: code === 'no-initials' ? 'who' : code === 'stale' ? 'stale' : 'refused',
    message: told?.error?.message ?? 'This did not work. Try again.',
    fields: {},
  };
}
