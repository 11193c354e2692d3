/* Entities that a drawing program declares in the file itself, mostly for names of namespaces. */

const SUBSET_LIMIT = 20_000;
const ENTITIES_LIMIT = 100;
/** Characters that all of a file’s entities may stand for together. */
export const EXPANSION_LIMIT = 1_000_000;

/** Plain text in quotes: no further entity in it, no markup, nothing from elsewhere. */
const ENTITY = /\s*<!ENTITY\s+([\w:.-]{1,60})\s+(?:"([^"&<%]{0,1000})"|'([^'&<%]{0,1000})')\s*>/y;
/** What says something about elements, which nobody here asks for. */
const OTHER = /\s*<!(?:ATTLIST|ELEMENT|NOTATION)\s[^<>]{0,2000}>/y;
const COMMENT = /\s*<!--/y;
const NOTHING = /\s*$/y;

/**
 * The entities of a document type’s internal subset: none of them can hold another, so nothing grows.
 * Null where there is anything else in it: entities inside entities, of parameters, or from outside.
 */
export function internalEntities(doctype: string): ReadonlyMap<string, string> | null {
  const found = new Map<string, string>();
  const from = doctype.indexOf('[');
  if (from < 0) return found;
  const subset = doctype.slice(from + 1, doctype.lastIndexOf(']'));
  if (subset.length > SUBSET_LIMIT) return null;
  let at = 0;
  const next = (pattern: RegExp): RegExpExecArray | null => {
    pattern.lastIndex = at;
    const match = pattern.exec(subset);
    if (match) at = pattern.lastIndex;
    return match;
  };
  while (!next(NOTHING)) {
    if (next(COMMENT)) {
      const end = subset.indexOf('-->', at);
      if (end < 0) return null;
      at = end + 3;
      continue;
    }
    const entity = next(ENTITY);
    if (entity) {
      // The first declaration of a name counts (XML 1.0, 4.2).
      if (!found.has(entity[1]!)) found.set(entity[1]!, entity[2] ?? entity[3]!);
      if (found.size > ENTITIES_LIMIT) return null;
    } else if (!next(OTHER)) return null;
  }
  return found;
}
