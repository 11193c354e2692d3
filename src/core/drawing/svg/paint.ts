import { compose, determinant, type Affine, type Rect } from '../../geometry';

import type { XmlElement, XmlNode } from './parseXml';
import { parseTransform, svgMatrix } from './transformAttribute';

/** A scale this close to 1 changes nothing that is seen. */
const SAME_SCALE = 1e-4;

/*
 * What a drawing is painted with has to follow its shapes: gradients, patterns, clips, masks and blurs are copied for
 * the place that each shape went to. The originals stay, and the copies refer to them for what does not change.
 */

/** So many copies a file may need; beyond, paint is left where it was and that is said. */
const MOST_COPIES = 5000;
const MOST_NODES = 50_000;
const CHAIN_LIMIT = 32;

const URL = /url\(\s*['"]?#([^'")\s]+)['"]?\s*\)/;

/** Of a fraction or a percentage of a bounding box. */
const share = (text: string | undefined, otherwise: number): number => {
  const value =
    text === undefined ? otherwise : Number.parseFloat(text) / (text.trim().endsWith('%') ? 100 : 1);
  return Number.isFinite(value) ? value : otherwise;
};

const boxMap = (b: Rect): Affine => ({
  a11: b.x1 - b.x0,
  a12: 0,
  a21: 0,
  a22: b.y1 - b.y0,
  tx: b.x0,
  ty: b.y0,
});

const matrixText = (m: Affine): string =>
  `matrix(${svgMatrix(m)
    .map((v) => Number(v.toPrecision(12)))
    .join(' ')})`;

/** Where a painted element was and where it went. */
export interface Moved {
  /** The element’s own user units → the user units that it is written in. */
  readonly to: Affine;
  /** Its bounding box in its own user units, worked out when it is asked for; null where it is not known (a group). */
  readonly box: () => Rect | null;
}

/** The same for one thing that it is painted with: with the box, if that goes by it. */
interface Placed {
  readonly to: Affine;
  readonly box: Rect | null;
}

const GRADIENT_PLACES = {
  linearGradient: { x1: 0, y1: 0, x2: 1, y2: 0 },
  radialGradient: { cx: 0.5, cy: 0.5, r: 0.5 },
} as const;

export class Paints {
  private readonly made = new Map<string, string>();
  private readonly copies: XmlElement[] = [];
  private room = MOST_NODES;

  constructor(
    private readonly byId: ReadonlyMap<string, XmlElement>,
    private readonly prefix: string,
    private readonly note: (what: string) => void,
  ) {}

  /** The copies, for the end of the file. */
  definitions(): XmlNode[] {
    if (this.copies.length === 0) return [];
    return [{ kind: 'element', name: `${this.prefix}defs`, attributes: {}, children: this.copies }];
  }

  /** A property’s value with what it refers to moved along; the value itself where it refers to nothing. */
  follow(value: string, moved: Moved): string {
    const id = URL.exec(value)?.[1];
    const target = id === undefined ? undefined : this.byId.get(id);
    if (!id || !target) return value;
    const name = target.name.slice(target.name.indexOf(':') + 1);
    // A copy is for one place, and for one box where the box matters.
    const placed: Placed = { to: moved.to, box: this.goesByBox(name, target) ? moved.box() : null };
    const key = `${id} ${matrixText(placed.to)} ${JSON.stringify(placed.box)}`;
    const known = this.made.get(key);
    if (known !== undefined) return value.replace(URL, `url(#${known})`);
    this.room -= nodesIn(target, this.room);
    if (this.copies.length >= MOST_COPIES || this.room <= 0) {
      this.note('more paint than can be moved along: check how it looks');
      return value;
    }
    const copy = this.copyOf(name, target, id, placed);
    if (!copy) return value;
    const fresh = this.freeId(id);
    this.made.set(key, fresh);
    this.copies.push({ ...copy, attributes: { ...copy.attributes, id: fresh } });
    return value.replace(URL, `url(#${fresh})`);
  }

  private freeId(id: string): string {
    for (let n = this.copies.length + 1; ; n += 1)
      if (!this.byId.has(`${id}-moved-${n}`)) return `${id}-moved-${n}`;
  }

  /** Whether what something is painted with goes by its bounding box. */
  private goesByBox(name: string, target: XmlElement): boolean {
    if (name.endsWith('Gradient')) return this.inherited(target, 'gradientUnits') !== 'userSpaceOnUse';
    if (name === 'pattern') return this.inherited(target, 'patternUnits') !== 'userSpaceOnUse';
    return name === 'clipPath' && target.attributes.clipPathUnits === 'objectBoundingBox';
  }

  private copyOf(name: string, target: XmlElement, id: string, moved: Placed): XmlElement | null {
    switch (name) {
      case 'linearGradient':
      case 'radialGradient':
        return this.gradient(name, target, id, moved);
      case 'pattern':
        return this.pattern(target, id, moved);
      case 'clipPath':
        return this.clip(target, moved);
      case 'mask':
        return this.mask(target, moved);
      case 'filter':
        return this.filter(target, moved);
      default:
        return null;
    }
  }

  /** An attribute of an element, or of what it refers to, and so on. */
  private inherited(element: XmlElement, name: string): string | undefined {
    let at: XmlElement | undefined = element;
    for (let i = 0; at && i < CHAIN_LIMIT; i += 1) {
      if (at.attributes[name] !== undefined) return at.attributes[name];
      const href: string | undefined = at.attributes['xlink:href'] ?? at.attributes.href;
      at = href?.startsWith('#') ? this.byId.get(href.slice(1)) : undefined;
    }
    return undefined;
  }

  private gradient(
    name: keyof typeof GRADIENT_PLACES,
    target: XmlElement,
    id: string,
    { to, box }: Placed,
  ): XmlElement | null {
    const own = parseTransform(this.inherited(target, 'gradientTransform')) ?? null;
    if (!own) return null;
    const attributes: Record<string, string> = { 'xlink:href': `#${id}`, gradientUnits: 'userSpaceOnUse' };
    let transform = compose(to, own);
    if (this.inherited(target, 'gradientUnits') !== 'userSpaceOnUse') {
      // A box without width or height is not painted by it (SVG 2, 13.2.2).
      if (!box || box.x1 <= box.x0 || box.y1 <= box.y0) return null;
      for (const [place, otherwise] of Object.entries(GRADIENT_PLACES[name]))
        attributes[place] = String(share(this.inherited(target, place), otherwise));
      for (const focus of ['fx', 'fy', 'fr'])
        if (this.inherited(target, focus) !== undefined)
          attributes[focus] = String(share(this.inherited(target, focus), 0.5));
      transform = compose(to, compose(boxMap(box), own));
    }
    return this.element(target, { ...attributes, gradientTransform: matrixText(transform) });
  }

  private pattern(target: XmlElement, id: string, { to, box }: Placed): XmlElement | null {
    const own = parseTransform(this.inherited(target, 'patternTransform')) ?? null;
    if (!own) return null;
    if (this.inherited(target, 'patternContentUnits') === 'objectBoundingBox') {
      this.note('a pattern that is drawn by its box did not follow: check how it looks');
      return null;
    }
    const attributes: Record<string, string> = {
      'xlink:href': `#${id}`,
      patternUnits: 'userSpaceOnUse',
      patternTransform: matrixText(compose(to, own)),
    };
    if (this.inherited(target, 'patternUnits') !== 'userSpaceOnUse') {
      if (!box) return null;
      const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
      attributes.x = String(box.x0 + w * share(this.inherited(target, 'x'), 0));
      attributes.y = String(box.y0 + h * share(this.inherited(target, 'y'), 0));
      attributes.width = String(w * share(this.inherited(target, 'width'), 0));
      attributes.height = String(h * share(this.inherited(target, 'height'), 0));
    }
    return this.element(target, attributes);
  }

  private clip(target: XmlElement, { to, box }: Placed): XmlElement | null {
    const own = parseTransform(target.attributes.transform) ?? null;
    if (!own) return null;
    const byBox = target.attributes.clipPathUnits === 'objectBoundingBox';
    if (byBox && !box) {
      this.note('a clip that goes by its box did not follow: check how it looks');
      return null;
    }
    const transform = compose(to, byBox ? compose(boxMap(box!), own) : own);
    return {
      ...this.element(target, {
        ...target.attributes,
        clipPathUnits: 'userSpaceOnUse',
        transform: matrixText(transform),
      }),
      children: target.children.map(withoutIds),
    };
  }

  private mask(target: XmlElement, { to }: Placed): XmlElement | null {
    const { attributes: at } = target;
    if (at.maskContentUnits === 'objectBoundingBox') {
      this.note('a mask that goes by its box did not follow: check how it looks');
      return null;
    }
    // The region of its own box follows the box; one that was typed is as large as ever, so it is left open.
    const open: Record<string, string> =
      at.maskUnits === 'userSpaceOnUse'
        ? { maskUnits: 'userSpaceOnUse', x: '-1e5', y: '-1e5', width: '2e5', height: '2e5' }
        : {};
    const inner: XmlElement = {
      kind: 'element',
      name: `${this.prefix}g`,
      attributes: { transform: matrixText(to) },
      children: target.children.map(withoutIds),
    };
    return { ...this.element(target, { ...at, ...open }), children: [inner] };
  }

  /** How far a blur reaches goes with the size of what is blurred. */
  private filter(target: XmlElement, { to }: Placed): XmlElement | null {
    const scale = Math.sqrt(Math.abs(determinant(to)));
    if (target.attributes.primitiveUnits === 'objectBoundingBox' || Math.abs(scale - 1) < SAME_SCALE)
      return null;
    if (target.attributes.filterUnits === 'userSpaceOnUse')
      this.note('a filter of a typed region did not follow: check how it looks');
    const scaled = (node: XmlNode): XmlNode => {
      if (node.kind !== 'element') return node;
      const attributes = { ...node.attributes };
      delete attributes.id;
      for (const name of ['stdDeviation', 'dx', 'dy', 'radius'])
        if (attributes[name] !== undefined)
          attributes[name] = attributes[name]
            .trim()
            .split(/[\s,]+/)
            .map((v) => Number((Number(v) * scale).toPrecision(6)))
            .join(' ');
      return { ...node, attributes, children: node.children.map(scaled) };
    };
    return { ...this.element(target, { ...target.attributes }), children: target.children.map(scaled) };
  }

  private element(target: XmlElement, attributes: Readonly<Record<string, string>>): XmlElement {
    return { kind: 'element', name: target.name, attributes, children: [] };
  }
}

/** How many nodes an element holds, itself included; counted no further than `most`. */
function nodesIn(node: XmlNode, most: number): number {
  let count = 1;
  if (node.kind === 'element')
    for (const child of node.children) {
      if (count >= most) return count;
      count += nodesIn(child, most - count);
    }
  return count;
}

function withoutIds(node: XmlNode): XmlNode {
  if (node.kind !== 'element') return node;
  const attributes = { ...node.attributes };
  delete attributes.id;
  return { ...node, attributes, children: node.children.map(withoutIds) };
}
