import { apiError } from './apiError';
import { KEEP_FILES_DAYS } from '@/server/files/keepFiles';

/** A file to keep, under its name; 410 where its keeping time is over. */
export function download(content: string | Uint8Array | null, type: string, name: string): Response {
  if (content === null)
    return apiError(
      410,
      'let-go',
      `This file was made more than ${KEEP_FILES_DAYS} days ago and is not kept any more. Make it anew; what it was made of is in the log.`,
    );
  return new Response(typeof content === 'string' ? content : new Uint8Array(content), {
    headers: { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${name}"` },
  });
}
