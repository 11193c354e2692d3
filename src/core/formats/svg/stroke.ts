import { svgLength } from './svgLength';
import type { XmlElement } from './parseXml';

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
): Record<string, string> {
  if (Math.abs(scale - 1) < 1e-6 || attributes['vector-effect'] === 'non-scaling-stroke') return attributes;
  const width = String(Number((strokeWidth * scale).toPrecision(6)));
  const style = attributes.style;
  if (style && IN_STYLE.test(style))
    return { ...attributes, style: style.replace(IN_STYLE, `$1stroke-width:${width}`) };
  return { ...attributes, 'stroke-width': width };
}
