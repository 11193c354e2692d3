import { svgLength } from './svgLength';
import type { XmlElement } from './parseXml';

/** Attributes that describe a shape's geometry; they go when the shape becomes a path. */
export const GEOMETRY_ATTRIBUTES: Readonly<Record<string, readonly string[]>> = {
  path: ['d'],
  rect: ['x', 'y', 'width', 'height', 'rx', 'ry'],
  circle: ['cx', 'cy', 'r'],
  ellipse: ['cx', 'cy', 'rx', 'ry'],
  line: ['x1', 'y1', 'x2', 'y2'],
  polyline: ['points'],
  polygon: ['points'],
};

/**
 * The path data of a basic shape, in its own user units. Source: W3C SVG 2, 10 (equivalent paths).
 * An empty string means that nothing is drawn; null that a figure could not be read.
 */
export function shapePath(element: XmlElement, view: { width: number; height: number }): string | null {
  const at = element.attributes;
  const diagonal = Math.hypot(view.width, view.height) / Math.SQRT2;
  const across = (name: string): number | null => svgLength(at[name], view.width, 0);
  const down = (name: string): number | null => svgLength(at[name], view.height, 0);
  switch (element.name) {
    case 'path':
      return at.d ?? '';
    case 'line':
      return joined(['M', across('x1'), down('y1'), 'L', across('x2'), down('y2')]);
    case 'polyline':
    case 'polygon':
      return pointsPath(at.points ?? '', element.name === 'polygon');
    case 'circle':
      return ellipsePath(
        across('cx'),
        down('cy'),
        svgLength(at.r, diagonal, 0),
        svgLength(at.r, diagonal, 0),
      );
    case 'ellipse': {
      const rx = svgLength(at.rx, view.width, Number.NaN);
      const ry = svgLength(at.ry, view.height, Number.NaN);
      return ellipsePath(across('cx'), down('cy'), orOther(rx, ry), orOther(ry, rx));
    }
    case 'rect': {
      const rx = svgLength(at.rx, view.width, Number.NaN);
      const ry = svgLength(at.ry, view.height, Number.NaN);
      return rectPath(
        across('x'),
        down('y'),
        across('width'),
        down('height'),
        orOther(rx, ry),
        orOther(ry, rx),
      );
    }
    default:
      throw new Error(`shapePath: “${element.name}” is not a shape`);
  }
}

/** `auto` radii take the other one's value; both auto mean none. */
const orOther = (own: number | null, other: number | null): number | null => {
  if (own === null || other === null) return null;
  if (!Number.isNaN(own)) return own;
  return Number.isNaN(other) ? 0 : other;
};

function joined(parts: readonly (string | number | null)[]): string | null {
  return parts.includes(null) ? null : parts.join(' ');
}

function pointsPath(text: string, closed: boolean): string | null {
  const trimmed = text.trim();
  if (trimmed === '') return '';
  const numbers = trimmed.split(/[\s,]+/).map(Number);
  if (numbers.some((n) => !Number.isFinite(n))) return null;
  const pairs = Math.floor(numbers.length / 2);
  if (pairs < 2) return '';
  const words = Array.from(
    { length: pairs },
    (_, i) => `${i === 0 ? 'M' : 'L'}${numbers[2 * i]} ${numbers[2 * i + 1]}`,
  );
  return words.join(' ') + (closed ? ' Z' : '');
}

function ellipsePath(
  cx: number | null,
  cy: number | null,
  rx: number | null,
  ry: number | null,
): string | null {
  if (cx === null || cy === null || rx === null || ry === null) return null;
  if (!(rx > 0 && ry > 0)) return '';
  const arc = (x: number, y: number): string => `A${rx} ${ry} 0 0 1 ${x} ${y}`;
  return `M${cx + rx} ${cy} ${arc(cx, cy + ry)} ${arc(cx - rx, cy)} ${arc(cx, cy - ry)} ${arc(cx + rx, cy)} Z`;
}

function rectPath(
  x: number | null,
  y: number | null,
  width: number | null,
  height: number | null,
  rx: number | null,
  ry: number | null,
): string | null {
  if (x === null || y === null || width === null || height === null || rx === null || ry === null)
    return null;
  if (!(width > 0 && height > 0)) return '';
  const a = Math.min(Math.max(0, rx), width / 2);
  const b = Math.min(Math.max(0, ry), height / 2);
  if (a === 0 || b === 0)
    return `M${x} ${y} L${x + width} ${y} L${x + width} ${y + height} L${x} ${y + height} Z`;
  const arc = (toX: number, toY: number): string => `A${a} ${b} 0 0 1 ${toX} ${toY}`;
  return [
    `M${x + a} ${y} L${x + width - a} ${y} ${arc(x + width, y + b)}`,
    `L${x + width} ${y + height - b} ${arc(x + width - a, y + height)}`,
    `L${x + a} ${y + height} ${arc(x, y + height - b)}`,
    `L${x} ${y + b} ${arc(x + a, y)} Z`,
  ].join(' ');
}
