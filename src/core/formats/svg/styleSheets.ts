import type { XmlElement, XmlNode } from './parseXml';

/*
 * Drawing programs often paint by class. What a style sheet says of an element that has to follow the correction (what it
 * refers to, line widths, dashes) is written into the element itself, where it follows like any other; the sheet stays.
 */

/** Properties that bear on where paint lies; a fill only when it refers to something. */
const FOLLOWED = [
  ...['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'stroke-dashoffset'],
  ...['clip-path', 'mask', 'filter'],
] as const;
const MOST_RULES = 20_000;

interface Rule {
  readonly tag: string | null;
  readonly id: string | null;
  readonly classes: readonly string[];
  /** Specificity, then the order in the file. */
  readonly weight: number;
  readonly set: ReadonlyMap<string, string>;
}

const SIMPLE = /^(\*|[a-z][\w-]*)?((?:[.#][\w-]+)*)$/i;

/** The tree with what its style sheets say written into its elements; as it is when there is none. */
export function withSheets(root: XmlElement, note: (what: string) => void): XmlElement {
  const css = sheetsOf(root);
  if (css === '') return root;
  const rules = rulesOf(css, note);
  if (rules.length === 0) return root;
  const byKey = new Map<string, Rule[]>();
  for (const rule of rules) {
    const key = keyOf(rule);
    const same = byKey.get(key);
    if (same) same.push(rule);
    else byKey.set(key, [rule]);
  }
  return inlined(root, byKey);
}

function sheetsOf(node: XmlNode): string {
  if (node.kind !== 'element') return '';
  if (localName(node.name) === 'style')
    return node.children.map((c) => (c.kind === 'element' || c.kind === 'comment' ? '' : c.text)).join('\n');
  return node.children.map(sheetsOf).join('');
}

/** Rules that set something that follows, of selectors that name an element by its kind, class or id. */
function rulesOf(css: string, note: (what: string) => void): Rule[] {
  const rules: Rule[] = [];
  for (const { selectors, body, nested } of blocksOf(withoutComments(css))) {
    const set = declarationsOf(body);
    if (set.size === 0) continue;
    for (const selector of selectors.split(',')) {
      const rule = nested || selectors.includes('@') ? null : ruleOf(selector.trim(), set, rules.length);
      if (rule && rules.length < MOST_RULES) rules.push(rule);
      else note('a style sheet paints elements in a way that is not followed: check how they look');
    }
  }
  return rules;
}

interface Block {
  readonly selectors: string;
  readonly body: string;
  /** Within another, as in one for some media only. */
  readonly nested: boolean;
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
      if (block) blocks.push({ selectors: block.selectors, body: text, nested: open.length > 0 });
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

function declarationsOf(body: string): ReadonlyMap<string, string> {
  const set = new Map<string, string>();
  for (const part of body.split(';')) {
    const at = part.indexOf(':');
    const name = part.slice(0, Math.max(0, at)).trim().toLowerCase();
    if ((FOLLOWED as readonly string[]).includes(name)) set.set(name, part.slice(at + 1).trim());
  }
  return set;
}

function ruleOf(selector: string, set: ReadonlyMap<string, string>, order: number): Rule | null {
  const [, tag, rest] = SIMPLE.exec(selector) ?? [];
  if (rest === undefined || selector === '') return null;
  if ([...set.values()].some((value) => value.includes('!'))) return null;
  const parts = rest.match(/[.#][\w-]+/g) ?? [];
  const ids = parts.filter((p) => p.startsWith('#'));
  const classes = parts.filter((p) => p.startsWith('.')).map((p) => p.slice(1));
  if (ids.length > 1) return null;
  const named = tag !== undefined && tag !== '*';
  return {
    tag: named ? tag : null,
    id: ids[0]?.slice(1) ?? null,
    classes,
    weight: (ids.length * 1e4 + classes.length * 100 + Number(named)) * MOST_RULES * 2 + order,
    set,
  };
}

/** What a rule is looked up by: the one thing an element must have for it. */
const keyOf = ({ id, classes, tag }: Rule): string =>
  id !== null ? `#${id}` : classes[0] !== undefined ? `.${classes[0]}` : (tag ?? '*');

function inlined(element: XmlElement, byKey: ReadonlyMap<string, readonly Rule[]>): XmlElement {
  const { attributes } = element;
  const tag = localName(element.name);
  const classes = (attributes.class ?? '').split(/\s+/).filter(Boolean);
  const keys = new Set([
    '*',
    tag,
    ...classes.map((c) => `.${c}`),
    ...(attributes.id ? [`#${attributes.id}`] : []),
  ]);
  const found = [...keys]
    .flatMap((key) => byKey.get(key) ?? [])
    .filter(
      (r) =>
        (r.tag === null || r.tag === tag) &&
        (r.id === null || r.id === attributes.id) &&
        r.classes.every((c) => classes.includes(c)),
    )
    .sort((a, b) => a.weight - b.weight);
  const children = element.children.map((c) => (c.kind === 'element' ? inlined(c, byKey) : c));
  if (found.length === 0) return { ...element, children };
  const won = new Map(found.flatMap((r) => [...r.set]));
  const own = (attributes.style ?? '').split(';').map((p) => p.slice(0, Math.max(0, p.indexOf(':'))).trim());
  const added = [...won].filter(
    ([name, value]) => !own.includes(name) && (name !== 'fill' || value.includes('url(')),
  );
  if (added.length === 0) return { ...element, children };
  const style = [...added.map((pair) => pair.join(':')), attributes.style?.trim() ?? '']
    .filter(Boolean)
    .join(';');
  return { ...element, attributes: { ...attributes, style }, children };
}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1);
