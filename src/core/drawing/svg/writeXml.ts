import type { XmlElement, XmlNode } from './parseXml';

/** Writes a tree back; attributes keep their order. */
export function writeXml(root: XmlElement): string {
  const parts: string[] = ['<?xml version="1.0" encoding="UTF-8"?>\n'];
  write(root, parts);
  parts.push('\n');
  return parts.join('');
}

function write(node: XmlNode, parts: string[]): void {
  switch (node.kind) {
    case 'text':
      parts.push(escapeText(node.text));
      return;
    case 'cdata':
      parts.push(`<![CDATA[${node.text}]]>`);
      return;
    case 'comment':
      parts.push(`<!--${node.text}-->`);
      return;
    case 'element': {
      parts.push(`<${node.name}`);
      for (const [name, value] of Object.entries(node.attributes))
        parts.push(` ${name}="${escapeAttribute(value)}"`);
      if (node.children.length === 0) {
        parts.push('/>');
        return;
      }
      parts.push('>');
      for (const child of node.children) write(child, parts);
      parts.push(`</${node.name}>`);
      return;
    }
    default:
      node satisfies never;
  }
}

const escapeText = (words: string): string =>
  words.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

const escapeAttribute = (words: string): string =>
  escapeText(words).replace(/"/g, '&quot;').replace(/\n/g, '&#10;').replace(/\t/g, '&#9;');
