import type { NotCut } from '..';

import { propertyOf } from './properties';
import type { XmlElement } from './parseXml';

/** What is inherited of whether something can be seen at all. */
export interface Seen {
  /** It, or something that it stands in, is not displayed: no child can undo that. */
  readonly displayed: boolean;
  /** A child may be visible within what is hidden. */
  readonly visible: boolean;
  /** It, or something that it stands in, has opacity 0. */
  readonly clear: boolean;
  readonly lineClear: boolean;
  readonly fillClear: boolean;
}

export const SEEN: Seen = {
  displayed: true,
  visible: true,
  clear: false,
  lineClear: false,
  fillClear: false,
};

/**
 * Whether an element is seen, with what it inherits (W3C SVG 2, 3.3 “display”, “visibility”, “opacity”; 13.2 paint).
 * What style sheets say has been written into the element before.
 */
export function seenOf(element: XmlElement, inherited: Seen, ownDisplay = true): Seen {
  const own = (name: string): string | null => {
    const value = propertyOf(element, name)?.toLowerCase() ?? null;
    return value === 'inherit' ? null : value;
  };
  const visibility = own('visibility');
  const isClear = (name: string): boolean | null => nothing(own(name));
  return {
    displayed: inherited.displayed && !(ownDisplay && own('display') === 'none'),
    visible: visibility === null ? inherited.visible : visibility !== 'hidden' && visibility !== 'collapse',
    clear: inherited.clear || isClear('opacity') === true,
    lineClear: isClear('stroke-opacity') ?? inherited.lineClear,
    fillClear: isClear('fill-opacity') ?? inherited.fillClear,
  };
}

/** Whether an opacity lets nothing be seen; null where none is given. */
function nothing(text: string | null): boolean | null {
  if (text === null) return null;
  const value = Number.parseFloat(text);
  return Number.isFinite(value) ? value <= 0 : null;
}

/** Why a shape is no cut line; null when it can be seen. `paint` holds what its line and fill are, inherited or its own. */
export function notCutOf(seen: Seen, paint: Readonly<Record<string, string>>): NotCut | null {
  if (!seen.displayed || !seen.visible) return 'hidden';
  if (seen.clear) return 'see-through';
  const line = paints(paint.stroke ?? 'none');
  const fill = paints(paint.fill ?? 'black');
  if (!line && !fill) return 'unpainted';
  return (line && !seen.lineClear) || (fill && !seen.fillClear) ? null : 'see-through';
}

const CLEAR_HEX = /^#(?:[0-9a-f]{3}0|[0-9a-f]{6}00)$/;

/** Whether a paint puts anything down. A line width of 0 is left out of this: cut files often have such hairlines. */
function paints(value: string): boolean {
  const paint = value.trim().toLowerCase();
  if (paint === 'none' || paint === 'transparent' || CLEAR_HEX.test(paint)) return false;
  // Three numbers and a fourth that is nought.
  const fourth = /^(?:rgb|hsl)a?\(/.test(paint) ? paint.match(/[\d.]+/g)?.[3] : undefined;
  return fourth === undefined || Number(fourth) !== 0;
}
