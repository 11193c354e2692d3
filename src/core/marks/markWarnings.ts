import { markOutline, markPlaces, type SheetSize } from './markPlaces';
import type { MarkKit } from './types';

/**
 * What will go wrong with these marks on this sheet, a sentence each; empty when nothing will.
 * Edges: common practice, no source.
 */
export function markWarnings(kit: MarkKit, sheet: SheetSize): string[] {
  const warnings: string[] = [];
  for (const place of markPlaces(kit, sheet)) {
    const o = markOutline(kit, place);
    const edge = Math.min(o.x0, o.y0, sheet.sheetWidthMm - o.x1, sheet.sheetHeightMm - o.y1);
    const mm = (value: number): string => `${value.toFixed(1)} mm`;
    if (edge < kit.printerEdgeMm)
      warnings.push(
        `The ${place.name} mark comes within ${mm(Math.max(0, edge))} of the sheet’s edge; the printer leaves ${mm(kit.printerEdgeMm)} unprinted and would clip it. Move it in by ${mm(kit.printerEdgeMm - edge)}.`,
      );
    if (edge < kit.sensorEdgeMm)
      warnings.push(
        `The ${place.name} mark comes within ${mm(Math.max(0, edge))} of the sheet’s edge; below ${mm(kit.sensorEdgeMm)} the sensor may take the edge for it. Move it in by ${mm(kit.sensorEdgeMm - edge)}.`,
      );
  }
  if (kit.insetLeftMm + kit.insetRightMm > sheet.sheetWidthMm - 2 * kit.sizeMm)
    warnings.push('Left and right marks meet: the insets leave no sheet between them.');
  if (kit.insetNearMm + kit.insetFarMm > sheet.sheetHeightMm - 2 * kit.sizeMm)
    warnings.push('Near and far marks meet: the insets leave no sheet between them.');
  return warnings;
}
