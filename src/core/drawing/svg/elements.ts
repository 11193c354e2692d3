import { determinant, largestStretch, type Affine } from '../../geometry';

import { propertyOf } from './properties';
import type { XmlElement, XmlNode, XmlRefusal } from './parseXml';
import { svgLength } from './svgLength';

/* What an SVG's elements say of themselves, and what of them may stay in a file that is passed on. */

export type SvgRefusal =
  | XmlRefusal
  | { readonly code: 'not-svg'; readonly rootName: string }
  | { readonly code: 'no-size' }
  | {
      readonly code: 'bad-value';
      readonly element: string;
      readonly attribute: string;
      readonly value: string;
    }
  | { readonly code: 'use-loop'; readonly id: string }
  | { readonly code: 'too-many-copies'; readonly limit: number }
  | { readonly code: 'too-many-points'; readonly limit: number }
  | { readonly code: 'path-too-long'; readonly limit: number }
  | { readonly code: 'nothing-to-cut'; readonly uncut: number };

/** Leaves the walk with what cannot be read. */
export class Stop extends Error {
  constructor(readonly refusal: SvgRefusal) {
    super(refusal.code);
  }
}

/** What runs, animates or reaches outside. */
export const NEVER = new Set([
  'script',
  'foreignObject',
  'animate',
  'animateTransform',
  'animateMotion',
  'set',
  'iframe',
]);

export const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

/** Own namespaces of drawing programs (with a colon) stay as they are; scripts inside never do. */
export function plain(element: XmlElement): XmlElement {
  return {
    ...element,
    attributes: safeAttributes(element.attributes, () => undefined),
    children: element.children.flatMap((child): XmlNode[] => {
      if (child.kind !== 'element') return [child];
      return NEVER.has(localName(child.name)) ? [] : [plain(child)];
    }),
  };
}

/** Without event handlers and without links that leave the file. */
export function safeAttributes(
  attributes: Readonly<Record<string, string>>,
  note: (what: string) => void,
): Record<string, string> {
  const kept: Record<string, string> = {};
  for (const [name, value] of Object.entries(attributes)) {
    if (/^on/i.test(name)) note('event handler left out');
    else if (/(^|:)href$/.test(name) && !/^(#|data:image\/)/.test(value))
      note('link out of the file left out');
    else kept[name] = value;
  }
  return kept;
}

export const sizeOf = (element: XmlElement): Record<string, string> =>
  Object.fromEntries(
    Object.entries(element.attributes).filter(([name]) => name === 'width' || name === 'height'),
  );

export function index(element: XmlElement, byId: Map<string, XmlElement>, usedIds: Set<string>): void {
  const { id, href } = element.attributes;
  if (id !== undefined && !byId.has(id)) byId.set(id, element);
  const target = href ?? element.attributes['xlink:href'];
  if (localName(element.name) === 'use' && target?.startsWith('#')) usedIds.add(target.slice(1));
  for (const child of element.children) if (child.kind === 'element') index(child, byId, usedIds);
}

/** Page size in px; a page without a physical size is taken at 1/96 in a unit, and the report says so. */
export function pageSize(
  root: XmlElement,
  viewBox: { width: number; height: number } | null,
  note: (what: string) => void,
): { width: number; height: number } {
  const { width, height } = root.attributes;
  const percent = [width, height].some((v) => v === undefined || v.includes('%') || v.trim() === 'auto');
  if (percent) {
    if (!viewBox) throw new Stop({ code: 'no-size' });
    note('the page has no size in mm: one unit was taken as 1/96 inch');
    const w = svgLength(width?.includes('%') ? undefined : width, 0, viewBox.width);
    const h = svgLength(height?.includes('%') ? undefined : height, 0, viewBox.height);
    return checkedSize(w, h, root);
  }
  return checkedSize(svgLength(width, 0, 0), svgLength(height, 0, 0), root);
}

function checkedSize(
  width: number | null,
  height: number | null,
  root: XmlElement,
): { width: number; height: number } {
  if (width === null || !(width > 0))
    throw new Stop({
      code: 'bad-value',
      element: 'svg',
      attribute: 'width',
      value: root.attributes.width ?? '',
    });
  if (height === null || !(height > 0))
    throw new Stop({
      code: 'bad-value',
      element: 'svg',
      attribute: 'height',
      value: root.attributes.height ?? '',
    });
  return { width, height };
}

/** Beyond it a line would be seen to be wider one way than the other. */
export const UNEVEN = 1.05;

/** By how much a map stretches one direction more than another. */
export const unevenness = (m: Affine): number => largestStretch(m) ** 2 / Math.abs(determinant(m));

/** What is inherited of what things are painted with, with what an element sets itself. */
export function paintOf(
  element: XmlElement,
  inherited: Readonly<Record<string, string>>,
): Record<string, string> {
  const paint = { ...inherited };
  for (const name of ['fill', 'stroke', 'stroke-dasharray', 'stroke-dashoffset']) {
    const own = propertyOf(element, name);
    if (own !== null && own !== 'inherit') paint[name] = own;
  }
  return paint;
}

/** What a drawing program calls the layer, or the group's own id. */
export function layerOf(element: XmlElement): string | null {
  const label = Object.entries(element.attributes).find(([name]) => name.endsWith(':label'))?.[1];
  return label?.trim() || element.attributes.id?.trim() || null;
}

/** The line colour an element sets, as `#rrggbb`; names and paint servers are left to the file. */
export function colourOf(element: XmlElement): string | null {
  const text =
    /(?:^|;)\s*stroke\s*:\s*([^;]+)/.exec(element.attributes.style ?? '')?.[1] ?? element.attributes.stroke;
  const hex = /^\s*#([0-9a-f]{3}|[0-9a-f]{6})\s*$/i.exec(text ?? '')?.[1]?.toLowerCase();
  if (!hex) return null;
  return `#${hex.length === 6 ? hex : [...hex].map((c) => c + c).join('')}`;
}
