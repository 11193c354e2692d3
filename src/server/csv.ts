/**
 * Rows as CSV (RFC 4180): CRLF, quotes doubled. A text that a spreadsheet would run as a formula gets an
 * apostrophe in front; numbers stay numbers.
 */
export function toCsv(rows: readonly object[]): string {
  const names = Object.keys(rows[0] ?? {});
  const lines = [names, ...rows.map((row) => names.map((name) => (row as Record<string, unknown>)[name]))];
  return lines.map((line) => line.map(cell).join(',')).join('\r\n') + '\r\n';
}

function cell(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'number') return String(value);
  const plain = String(value);
  const words = /^[=+\-@\t\r]/.test(plain) ? `'${plain}` : plain;
  return /[",\r\n]/.test(words) ? `"${words.replace(/"/g, '""')}"` : words;
}
