import { withProperty } from './properties';
import { svgLength } from './svgLength';
import type { XmlElement } from './parseXml';

/** A scale this close to 1 changes nothing that is seen. */
const SAME_SCALE = 1e-6;

const IN_STYLE = /(^|;)\s*stroke-width\s*:\s*([^;]+)/;

/** The line width an element sets for itself and its children, in user units; null when it sets none. */
export function strokeOf(element: XmlElement): number | null {
  const text = IN_STYLE.exec(element.attributes.style ?? '')?.[2] ?? element.attributes['stroke-width'];
  return text === undefined ? null : svgLength(text, 0, 1);
}

/** Writes the line width out, rescaled by the transforms that were written into the coordinates. */
export function scaledStroke(
  attributes: Record<string, string>,
  strokeWidth: number,
  scale: number,
  dashes?: string,
  dashOffset?: string,
): Record<string, string> {
  if (Math.abs(scale - 1) < SAME_SCALE || attributes['vector-effect'] === 'non-scaling-stroke')
    return attributes;
  const width = String(Number((strokeWidth * scale).toPrecision(6)));
  let all = withProperty(attributes, 'stroke-width', width);
  if (dashes !== undefined && dashes !== 'none')
    all = withProperty(all, 'stroke-dasharray', scaledList(dashes, scale) ?? dashes);
  if (dashOffset !== undefined)
    all = withProperty(all, 'stroke-dashoffset', scaledList(dashOffset, scale) ?? dashOffset);
  return all;
}

/** Lengths in user units, rescaled; null where one is none or goes by the page. */
function scaledList(text: string, scale: number): string | null {
  const lengths = text
    .trim()
    .split(/[\s,]+/)
    .map((word) => (word.endsWith('%') ? null : svgLength(word, 0, 0)));
  return lengths.includes(null)
    ? null
    : lengths.map((v) => String(Number((v! * scale).toPrecision(6)))).join(' ');
}
