/**
 * A row as CSV (RFC 4180): CRLF, quotes doubled. A text that a spreadsheet would run as a formula gets an
 * apostrophe in front; numbers stay numbers.
 */
export const csvLine = (values: readonly unknown[]): string => `${values.map(cell).join(',')}\r\n`;

function cell(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'number') return String(value);
  const plain = String(value);
  const words = /^[=+\-@\t\r]/.test(plain) ? `'${plain}` : plain;
  return /[",\r\n]/.test(words) ? `"${words.replace(/"/g, '""')}"` : words;
}
