/**
 * The text of a cut file: UTF-8 where it is that, with or without its mark; else windows-1252, in which older programs
 * write names of layers (WHATWG Encoding, 4.1 and 9.1). Binary files come out as text that no reader takes.
 */
export function textOf(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder(bytes.includes(0) ? 'utf-8' : 'windows-1252').decode(bytes);
  }
}
