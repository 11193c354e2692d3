/** An edge of the sheet by its name, and which came out of the printer first as far as somebody has looked. */
export function edgeWords(edge: 'near' | 'far', bobFirst: boolean | null): string {
  if (bobFirst === null) return `${edge} edge`;
  return `${edge} edge, printed ${(edge === 'near') === bobFirst ? 'first' : 'last'}`;
}
