import { nameOf, withoutImportant } from './properties';
import type { XmlElement, XmlNode } from './parseXml';
import { compoundOf, matches, type Compound } from './selectors';

/*
 * Drawing programs often paint by class. What a style sheet says of an element that has to follow the correction (what it
 * refers to, line widths, dashes), or of whether it is seen at all, is written into the element itself, where it follows
 * like any other. The sheet stays, without what it said of sight: a shape that was written as a path would be met by other
 * rules than before.
 */

/** Properties of whether something is seen. */
const OF_SIGHT = ['display', 'visibility', 'opacity', 'fill-opacity', 'stroke-opacity'] as const;
/** And those that bear on where paint lies. */
const FOLLOWED = new Set<string>([
  ...['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'stroke-dashoffset'],
  ...['clip-path', 'mask', 'filter'],
  ...OF_SIGHT,
]);
const MOST_RULES = 20_000;
/** So many looks whether a rule holds for an element; a sheet from outside may be made to be slow. */
const MOST_LOOKS = 3_000_000;
const IMPORTANT = 1e15;

interface Declared {
  readonly value: string;
  readonly important: boolean;
}

interface Rule {
  readonly compound: Compound;
  /** Specificity, then the order in the file. */
  readonly weight: number;
  readonly set: ReadonlyMap<string, Declared>;
}

/** The tree with what its style sheets say written into its elements; as it is when there is none. */
export function withSheets(root: XmlElement, note: (what: string) => void): XmlElement {
  const css = sheetsOf(root);
  if (css === '') return root;
  const rules = rulesOf(css, note);
  if (rules.length === 0) return root;
  const byKey = new Map<string, Rule[]>();
  for (const rule of rules) {
    const key = keyOf(rule.compound);
    const same = byKey.get(key);
    if (same) same.push(rule);
    else byKey.set(key, [rule]);
  }
  const looks = { left: MOST_LOOKS };
  const done = inlined(root, [], byKey, looks);
  if (looks.left < 0) note(`the style sheet is too large to be followed whole: ${NOT_FOLLOWED.hides}`);
  return done;
}

function sheetsOf(node: XmlNode): string {
  if (node.kind !== 'element') return '';
  if (localName(node.name) === 'style')
    return node.children.map((c) => (c.kind === 'element' || c.kind === 'comment' ? '' : c.text)).join('\n');
  return node.children.map(sheetsOf).join('');
}

const NOT_FOLLOWED = {
  paints: 'a style sheet paints elements in a way that is not followed: check how they look',
  hides: 'a style sheet shows or hides elements in a way that is not followed: check what is cut',
};

/** Rules that set something that follows, of selectors that name elements by kind, class, id or attribute, and by what they stand in. */
function rulesOf(css: string, note: (what: string) => void): Rule[] {
  const rules: Rule[] = [];
  for (const { selectors, body, nested } of blocksOf(withoutComments(css))) {
    const set = declarationsOf(body);
    if (set.size === 0) continue;
    const unfollowed = OF_SIGHT.some((name) => set.has(name)) ? NOT_FOLLOWED.hides : NOT_FOLLOWED.paints;
    for (const selector of selectors.split(',')) {
      const compound = nested || selectors.includes('@') ? null : compoundOf(selector.trim());
      if (compound && rules.length < MOST_RULES)
        rules.push({ compound, set, weight: compound.specificity * MOST_RULES * 2 + rules.length });
      else note(unfollowed);
    }
  }
  return rules;
}

/** A sheet without what its followed rules say of sight. */
function withoutSight(sheet: string): string {
  const css = withoutComments(sheet);
  const parts: string[] = [];
  let since = 0;
  for (const { selectors, body, nested, end } of blocksOf(css)) {
    if (nested || !followed(selectors)) continue;
    const kept = body.split(';').filter((part) => !isOfSight(nameOf(part)));
    parts.push(css.slice(since, end - body.length), kept.join(';'));
    since = end;
  }
  return since === 0 ? sheet : parts.join('') + css.slice(since);
}

const isOfSight = (name: string): boolean => (OF_SIGHT as readonly string[]).includes(name);

const followed = (selectors: string): boolean =>
  !selectors.includes('@') && selectors.split(',').every((s) => compoundOf(s.trim()) !== null);

interface Block {
  readonly selectors: string;
  readonly body: string;
  /** Within another, as in one for some media only. */
  readonly nested: boolean;
  /** Where its body ends in the sheet. */
  readonly end: number;
}

/** Innermost blocks, in one pass: a sheet from outside may be made to be slow. */
function blocksOf(css: string): Block[] {
  const blocks: Block[] = [];
  const open: { readonly selectors: string }[] = [];
  let since = 0;
  for (const { 0: mark, index } of css.matchAll(/[{}]/g)) {
    const text = css.slice(since, index);
    since = index + 1;
    if (mark === '{') open.push({ selectors: text.slice(text.lastIndexOf(';') + 1) });
    else {
      const block = open.pop();
      if (block) blocks.push({ selectors: block.selectors, body: text, nested: open.length > 0, end: index });
    }
  }
  return blocks;
}

function withoutComments(css: string): string {
  const kept: string[] = [];
  let at = 0;
  for (;;) {
    const from = css.indexOf('/*', at);
    if (from < 0) return kept.join('') + css.slice(at);
    kept.push(css.slice(at, from));
    const to = css.indexOf('*/', from + 2);
    if (to < 0) return kept.join('');
    at = to + 2;
  }
}

function declarationsOf(body: string): ReadonlyMap<string, Declared> {
  const set = new Map<string, Declared>();
  for (const part of body.split(';')) {
    const at = part.indexOf(':');
    const name = nameOf(part);
    if (!FOLLOWED.has(name)) continue;
    const [value, important] = withoutImportant(part.slice(at + 1));
    if (important || !set.get(name)?.important) set.set(name, { value, important });
  }
  return set;
}

/** What a rule is looked up by: the one thing an element must have for it. */
const keyOf = ({ id, classes, tag }: Compound): string =>
  id !== null ? `#${id}` : classes[0] !== undefined ? `.${classes[0]}` : (tag ?? '*');

function inlined(
  element: XmlElement,
  above: readonly XmlElement[],
  byKey: ReadonlyMap<string, readonly Rule[]>,
  looks: { left: number },
): XmlElement {
  const { attributes } = element;
  const keys = new Set([
    '*',
    localName(element.name),
    ...(attributes.class ?? '')
      .split(/\s+/)
      .filter(Boolean)
      .map((c) => `.${c}`),
    ...(attributes.id ? [`#${attributes.id}`] : []),
  ]);
  const found: Rule[] = [];
  for (const key of keys)
    for (const rule of byKey.get(key) ?? []) {
      looks.left -= 1;
      if (looks.left < 0) break;
      if (matches(rule.compound, element, above, looks)) found.push(rule);
    }
  const inside = [...above, element];
  const isSheet = localName(element.name) === 'style';
  const children = element.children.map((c) => {
    if (c.kind === 'element') return inlined(c, inside, byKey, looks);
    return isSheet && c.kind !== 'comment' ? { ...c, text: withoutSight(c.text) } : c;
  });
  if (found.length === 0) return { ...element, children };
  const style = styleWith(attributes.style ?? '', found);
  return style === null
    ? { ...element, children }
    : { ...element, attributes: { ...attributes, style }, children };
}

/** An element’s own style with what its rules add: before it, but after it where a rule insists; null when nothing is added. */
function styleWith(own: string, found: readonly Rule[]): string | null {
  const won = new Map<
    string,
    { readonly value: string; readonly important: boolean; readonly weight: number }
  >();
  for (const { set, weight } of found)
    for (const [name, { value, important }] of set) {
      const weighs = weight + (important ? IMPORTANT : 0);
      if ((won.get(name)?.weight ?? -1) < weighs) won.set(name, { value, important, weight: weighs });
    }
  const written = new Map(own.split(';').map((p) => [nameOf(p), p] as const));
  const wins = (name: string, insists: boolean): boolean => {
    const mine = written.get(name);
    return mine === undefined || (insists && !withoutImportant(mine)[1]);
  };
  const added = [...won].filter(([name, { important }]) => wins(name, important));
  if (added.length === 0) return null;
  const before = added.map(([name, { value }]) => `${name}:${value}`);
  const replaced = added.filter(([name]) => written.has(name)).map(([name]) => name);
  if (replaced.length === 0) return [...before, own.trim()].filter(Boolean).join(';');
  const kept = own.split(';').filter((p) => !replaced.includes(nameOf(p)));
  return [...before, kept.join(';').trim()].filter(Boolean).join(';');
}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1);
