import { createHash } from 'node:crypto';

/**
 * SHA-256 of what was asked for, so that an answer is given again only to the same question: the same whatever order
 * its fields stand in; bytes count as they are.
 */
export function contentHash(...asked: readonly unknown[]): string {
  const hash = createHash('sha256');
  put(asked, (text) => hash.update(text, 'utf8'));
  return hash.digest('hex');
}

function put(value: unknown, write: (text: string) => void): void {
  if (value instanceof Uint8Array) return write(`bytes ${createHash('sha256').update(value).digest('hex')};`);
  if (value instanceof Date) return write(`date ${value.getTime()};`);
  if (Array.isArray(value)) {
    write('[');
    for (const each of value) put(each, write);
    return write(']');
  }
  if (typeof value === 'object' && value !== null) {
    write('{');
    for (const [name, each] of Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      if (each !== undefined) {
        write(`${JSON.stringify(name)}:`);
        put(each, write);
      }
    return write('}');
  }
  write(`${JSON.stringify(value) ?? 'nothing'};`);
}
