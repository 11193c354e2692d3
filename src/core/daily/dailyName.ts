import type { CutFormat } from '@/core/drawing/formats';

/** “hull-tag.dxf” for silver foil → “hull-tag-for-silver-foil.dxf”: told apart by name alone. */
export function dailyName(given: string, media: string, to: CutFormat): string {
  const base = given.replace(/\.[a-z0-9]{1,5}$/i, '') || 'file';
  const medium = media
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '');
  return `${base.slice(0, 150)}-for-${medium}.${to}`;
}
