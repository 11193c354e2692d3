/** Words for a text or an attribute: without what no XML file may hold (XML 1.0, 2.2), also half of a pair. */
export const escapeXml = (words: string): string =>
  words
    .replace(/\p{Surrogate}/gu, '\ufffd')
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
