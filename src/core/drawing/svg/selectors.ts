import type { XmlElement } from './parseXml';

/** A selector, read from its right end: what the element must be, then what it must stand in. */
export interface Compound {
  readonly tag: string | null;
  readonly id: string | null;
  readonly classes: readonly string[];
  /** Attributes that it must have; a null value is any. */
  readonly attributes: readonly (readonly [string, string | null])[];
  readonly within: { readonly how: 'child' | 'descendant'; readonly of: Compound } | null;
  /** Of the whole selector (W3C Selectors 4, 17). */
  readonly specificity: number;
}

/** A selector longer than this names nothing that a drawing program would. */
const MOST_LETTERS = 400;
const PART =
  /([\w-]+|\*)|[.]([\w-]+)|#([\w-]+)|\[\s*([\w:-]+)\s*(?:=\s*(?:"([^"]*)"|'([^']*)'|([\w-]+))\s*)?\]|\s*(>)\s*|(\s+)/y;

/**
 * Selectors by kind, class, id and attribute, and those that say what an element stands in (“#guides path”, “g > .a”);
 * null for any other, as those by place among brothers or by state.
 */
export function compoundOf(selector: string): Compound | null {
  if (selector === '' || selector.length > MOST_LETTERS) return null;
  let made: Compound | null = null;
  let how: 'child' | 'descendant' = 'descendant';
  let open = new Parts();
  const close = (): boolean => {
    if (open.empty) return false;
    made = open.made(made && { how, of: made });
    open = new Parts();
    return true;
  };
  PART.lastIndex = 0;
  while (PART.lastIndex < selector.length) {
    const part = PART.exec(selector);
    if (!part) return null;
    const [, tag, className, id, attribute, double, single, bare, child, space] = part;
    if (child !== undefined || space !== undefined) {
      if (!close()) return null;
      how = child !== undefined ? 'child' : 'descendant';
    } else if (!open.add(tag, className, id, attribute, double ?? single ?? bare ?? null)) return null;
  }
  return close() ? made : null;
}

/** Parts of one compound as they are read. */
class Parts {
  private tag: string | null = null;
  private id: string | null = null;
  private readonly classes: string[] = [];
  private readonly attributes: [string, string | null][] = [];
  empty = true;

  /** False for what no element can be: two kinds, two ids, a kind after something else. */
  add(
    tag: string | undefined,
    className: string | undefined,
    id: string | undefined,
    attribute: string | undefined,
    value: string | null,
  ): boolean {
    const first = this.empty;
    this.empty = false;
    if (tag !== undefined) {
      this.tag = tag;
      return first;
    }
    if (className !== undefined) this.classes.push(className);
    else if (id !== undefined) {
      if (this.id !== null) return false;
      this.id = id;
    } else if (attribute !== undefined) this.attributes.push([attribute, value]);
    return true;
  }

  made(within: Compound['within']): Compound {
    const { id, classes, attributes } = this;
    const named = this.tag !== null && this.tag !== '*';
    return {
      ...{ tag: named ? this.tag : null, id, classes, attributes, within },
      specificity:
        Number(id !== null) * 1e4 +
        (classes.length + attributes.length) * 100 +
        Number(named) +
        (within?.of.specificity ?? 0),
    };
  }
}

/** Whether a selector holds for an element that stands in others, outermost first; each look costs one of `looks`. */
export function matches(
  compound: Compound,
  element: XmlElement,
  above: readonly XmlElement[],
  looks: { left: number },
  upTo = above.length,
): boolean {
  if (!isOne(compound, element)) return false;
  const { within } = compound;
  if (within === null) return true;
  for (let i = upTo - 1; i >= 0; i -= 1) {
    looks.left -= 1;
    if (looks.left < 0) return false;
    if (matches(within.of, above[i]!, above, looks, i)) return true;
    if (within.how === 'child') return false;
  }
  return false;
}

function isOne({ tag, id, classes, attributes }: Compound, element: XmlElement): boolean {
  const own = element.attributes;
  if (tag !== null && tag !== element.name.slice(element.name.indexOf(':') + 1)) return false;
  if (id !== null && own.id !== id) return false;
  if (!attributes.every(([name, value]) => name in own && (value === null || own[name] === value)))
    return false;
  if (classes.length === 0) return true;
  const given = (own.class ?? '').split(/\s+/);
  return classes.every((c) => given.includes(c));
}
