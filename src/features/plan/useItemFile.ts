import { useState } from 'react';

import { fieldLength, plainLength, type LengthUnit } from '@/core/units';

import type { ItemFile } from './planFields';

/** The cut file of one item: as the run had it that is planned again, or one that is picked here. */
export function useItemFile(
  carried: ItemFile | null,
  unit: LengthUnit,
  onSize: (size: { readonly itemWidth: string; readonly itemHeight: string }) => void,
) {
  const carriedWords = carried ? `Cut along ${carried.name}, as it was.` : '';
  const [file, setFile] = useState(carried);
  const [says, setSays] = useState(carriedWords);

  const take = async (picked: File): Promise<void> => {
    const { fileRefusalText, readCutFile } = await import('@/core/drawing/file');
    const content = await picked.text();
    const item = readCutFile(content);
    if (!item.ok) return setSays(`${picked.name}: ${fileRefusalText(item.refusal)}`);
    const { bounds, lengthMm } = item.value;
    const [widthMm, heightMm] = [bounds.x1 - bounds.x0, bounds.y1 - bounds.y0];
    setFile({ name: picked.name, content, cutLengthMm: lengthMm });
    setSays(`${picked.name}: one item of ${plainLength(widthMm, unit)} by ${plainLength(heightMm, unit)}.`);
    onSize({ itemWidth: fieldLength(widthMm, unit), itemHeight: fieldLength(heightMm, unit) });
  };
  const drop = (): void => {
    setFile(null);
    setSays('');
  };
  const startAfresh = (): void => {
    setFile(carried);
    setSays(carriedWords);
  };
  return { file, says, take, drop, startAfresh };
}
