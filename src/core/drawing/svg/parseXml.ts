import { SaxesParser } from 'saxes';

import { accept, refuse, type Outcome } from '../../outcome';
import { EXPANSION_LIMIT, internalEntities } from './entities';

import { ELEMENT_LIMIT, FILE_LIMIT_BYTES } from '../limits';

export type XmlNode = XmlElement | { readonly kind: 'text' | 'comment' | 'cdata'; readonly text: string };

export interface XmlElement {
  readonly kind: 'element';
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly XmlNode[];
}

export type XmlRefusal =
  | { readonly code: 'too-large'; readonly bytes: number; readonly limit: number }
  | { readonly code: 'not-xml'; readonly detail: string }
  | { readonly code: 'declares-entities' }
  | { readonly code: 'too-deep'; readonly limit: number }
  | { readonly code: 'too-many-elements'; readonly limit: number };

export const XML_LIMITS = { bytes: FILE_LIMIT_BYTES, depth: 256, elements: ELEMENT_LIMIT } as const;

class Refusal extends Error {
  constructor(readonly refusal: XmlRefusal) {
    super(refusal.code);
  }
}

/**
 * Parses an XML document into a tree, with limits; nothing is fetched, and of entities only plain text that the file declares itself.
 *
 * Refuses  too-large, not-xml (where and why), declares-entities, too-deep, too-many-elements.
 */
export function parseXml(text: string): Outcome<XmlElement, XmlRefusal> {
  if (text.length > XML_LIMITS.bytes)
    return refuse({ code: 'too-large', bytes: text.length, limit: XML_LIMITS.bytes });
  type Open = { name: string; attributes: Record<string, string>; children: XmlNode[] };
  const stack: Open[] = [];
  let root: XmlElement | null = null;
  let elements = 0;
  const add = (node: XmlNode): void => void stack.at(-1)?.children.push(node);
  const parser = new SaxesParser({ position: true });
  parser.on('error', (error) => {
    throw new Refusal({ code: 'not-xml', detail: error.message });
  });
  parser.on('doctype', (doctype) => {
    const entities = internalEntities(doctype);
    if (!entities) throw new Refusal({ code: 'declares-entities' });
    let left = EXPANSION_LIMIT;
    for (const [name, value] of entities)
      Object.defineProperty(parser.ENTITIES, name, {
        get: () => {
          left -= value.length;
          if (left < 0) throw new Refusal({ code: 'declares-entities' });
          return value;
        },
      });
  });
  parser.on('opentag', (tag) => {
    elements += 1;
    if (elements > XML_LIMITS.elements)
      throw new Refusal({ code: 'too-many-elements', limit: XML_LIMITS.elements });
    if (stack.length >= XML_LIMITS.depth) throw new Refusal({ code: 'too-deep', limit: XML_LIMITS.depth });
    stack.push({
      name: tag.name,
      attributes: { ...(tag.attributes as Record<string, string>) },
      children: [],
    });
  });
  parser.on('closetag', () => {
    const { name, attributes, children } = stack.pop()!;
    const element: XmlElement = { kind: 'element', name, attributes, children };
    if (stack.length === 0) root = element;
    else add(element);
  });
  parser.on('text', (words) => add({ kind: 'text', text: words }));
  parser.on('cdata', (words) => add({ kind: 'cdata', text: words }));
  parser.on('comment', (words) => add({ kind: 'comment', text: words }));
  try {
    parser.write(text.replace(/^\ufeff/, '')).close();
  } catch (error) {
    if (error instanceof Refusal) return refuse(error.refusal);
    throw error;
  }
  return root === null ? refuse({ code: 'not-xml', detail: 'no element found' }) : accept(root);
}
