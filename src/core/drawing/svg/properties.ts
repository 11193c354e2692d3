import type { XmlElement } from './parseXml';

/* What an element sets of how it looks: in its style, or as an attribute. */

/** What a declaration is of, in small letters; empty where it is none. */
export const nameOf = (declaration: string): string => {
  const at = declaration.indexOf(':');
  return at < 0 ? '' : declaration.slice(0, at).trim().toLowerCase();
};

/** The value of a property as an element sets it, by style or attribute; null when it does not. */
export function propertyOf(element: XmlElement, name: string): string | null {
  let found: string | null = null;
  let held = false;
  for (const part of (element.attributes.style ?? '').split(';')) {
    if (nameOf(part) !== name) continue;
    const [value, important] = withoutImportant(part.slice(part.indexOf(':') + 1));
    // The last one counts, unless an earlier one insists.
    if (held && !important) continue;
    [found, held] = [value, important];
  }
  return found ?? element.attributes[name]?.trim() ?? null;
}

/** A value without “!important”, and whether it had it. */
export function withoutImportant(value: string): [string, boolean] {
  const at = value.lastIndexOf('!');
  const word = at < 0 ? '' : value.slice(at + 1).trim();
  const insists = word.toLowerCase() === 'important';
  return [(insists ? value.slice(0, at) : value).trim(), insists];
}

/** Attributes with a property set to a value, where it was set before or as an attribute. */
export function withProperty(
  attributes: Readonly<Record<string, string>>,
  name: string,
  value: string,
): Record<string, string> {
  const parts = (attributes.style ?? '').split(';');
  const others = parts.filter((part) => nameOf(part) !== name);
  if (others.length === parts.length) return { ...attributes, [name]: value };
  return { ...attributes, style: [...others, `${name}:${value}`].join(';') };
}
