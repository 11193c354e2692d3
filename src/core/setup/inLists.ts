import { group } from 'd3';

import { toType, type ShownSetting } from './standing';

/** A setup in a list to choose from: “Roll rig / silver foil”. */
export const setupWords = ({
  media,
  label,
  name,
}: {
  readonly media: string;
  /** Its own name, where a rig has the medium twice; empty else. */
  readonly label: string;
  /** Of its rig. */
  readonly name: string;
}): string => `${name} / ${media}${label ? `, ${label}` : ''}`;

/** Setups in the order of every list of them: by rig, and of a rig what its machine shows first. */
export const setupsByRig = <S extends { readonly rigId: string; readonly settings: readonly ShownSetting[] }>(
  setups: readonly S[],
): S[] =>
  [...group(setups, (s) => s.rigId).values()].flatMap((own) => [
    ...own.filter((s) => toType(s.settings).length === 0),
    ...own.filter((s) => toType(s.settings).length > 0),
  ]);
