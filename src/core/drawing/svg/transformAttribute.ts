import { compose, fromDefinition, fromTransformAttribute } from 'transformation-matrix';

import { IDENTITY, type Affine } from '../../geometry';
import { VALUE_LIMIT } from '../limits';

/** Reads a `transform` attribute, or a CSS transform in px and deg. Null when it cannot be read. */
export function parseTransform(text: string | undefined): Affine | null {
  if (text !== undefined && text.length > VALUE_LIMIT) return null;
  const plain = (text ?? '').replace(/(\d)(?:px|deg)\b/g, '$1').trim();
  if (plain === '' || plain === 'none') return IDENTITY;
  try {
    const m = compose(fromDefinition(fromTransformAttribute(plain)));
    const affine = { a11: m.a, a21: m.b, a12: m.c, a22: m.d, tx: m.e, ty: m.f };
    return Object.values(affine).every(Number.isFinite) ? affine : null;
  } catch {
    return null;
  }
}

/** As the `matrix(…)` of SVG. */
export const svgMatrix = (m: Affine): [number, number, number, number, number, number] => [
  m.a11,
  m.a21,
  m.a12,
  m.a22,
  m.tx,
  m.ty,
];
