import { IDENTITY, type Affine } from '../../geometry';

import { svgLength } from './svgLength';

export interface ViewBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export function parseViewBox(text: string | undefined): ViewBox | null {
  const [x, y, width, height, ...rest] = (text ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const sound =
    [x, y, width, height].every((v) => v !== undefined && Number.isFinite(v)) && rest.length === 0;
  return sound && width! > 0 && height! > 0 ? { x: x!, y: y!, width: width!, height: height! } : null;
}

/**
 * From the user units inside a viewport to the units around it.
 * Source: W3C SVG 2, 8.2 (equivalent transform of an SVG viewport), preserveAspectRatio included.
 */
export function viewportMap(
  at: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  viewBox: ViewBox | null,
  preserveAspectRatio: string | undefined,
): Affine {
  if (!viewBox) return { ...IDENTITY, tx: at.x, ty: at.y };
  let sx = at.width / viewBox.width;
  let sy = at.height / viewBox.height;
  const [align = 'xMidYMid', fit = 'meet'] = (preserveAspectRatio ?? '').trim().split(/\s+/).filter(Boolean);
  let tx = at.x - viewBox.x * sx;
  let ty = at.y - viewBox.y * sy;
  if (align !== 'none') {
    const s = fit === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy);
    sx = s;
    sy = s;
    tx = at.x - viewBox.x * s + share(align, 'xM') * (at.width - viewBox.width * s);
    ty = at.y - viewBox.y * s + share(align, 'YM') * (at.height - viewBox.height * s);
  }
  return { a11: sx, a12: 0, a21: 0, a22: sy, tx, ty };
}

const share = (align: string, axis: 'xM' | 'YM'): number => {
  const at = align.toLowerCase().indexOf(axis.toLowerCase());
  const word = at < 0 ? 'mid' : align.toLowerCase().slice(at + 1, at + 4);
  return word === 'min' ? 0 : word === 'max' ? 1 : 0.5;
};

/** Width and height of a nested viewport, in the units around it. */
export function viewportSize(
  attributes: Readonly<Record<string, string>>,
  around: { readonly width: number; readonly height: number },
): { x: number; y: number; width: number; height: number } | null {
  const x = svgLength(attributes.x, around.width, 0);
  const y = svgLength(attributes.y, around.height, 0);
  const width = svgLength(attributes.width, around.width, around.width);
  const height = svgLength(attributes.height, around.height, around.height);
  if (x === null || y === null || width === null || height === null) return null;
  return { x, y, width, height };
}
