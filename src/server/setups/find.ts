import { refuse, accept, type Outcome } from '@/core/outcome';
import type { Deps } from '@/server/base/deps';

import { listSetups } from './repository';
import type { Setup } from './setup';

const plain = (words: string): string => words.trim().replace(/\s+/g, ' ').toLowerCase();

/** “Roll rig / silver foil”: how a setup is named outside the application, and its label when it has one. */
export const setupTitle = (setup: Pick<Setup, 'name' | 'media' | 'label'>): string =>
  [setup.name, setup.media, ...(setup.label ? [setup.label] : [])].join(' / ');

/** “210 × 297 mm”. */
export const sizeTitle = (setup: Pick<Setup, 'sheetWidthMm' | 'sheetHeightMm'>): string =>
  `${setup.sheetWidthMm} × ${setup.sheetHeightMm} mm`;

/** A setup in use by its id, or by rig and medium; where that names several, by label or size as well. */
export async function findSetup(deps: Deps, words: string): Promise<Outcome<Setup, string>> {
  const all = await listSetups(deps);
  const byId = all.find((s) => s.id === words.trim());
  if (byId) return accept(byId);
  const wanted = words.split('/').map(plain);
  const fits = all.filter((s) => {
    const [rig, medium, ...more] = wanted;
    return (
      plain(s.name) === rig &&
      plain(s.media) === medium &&
      more.every(
        (m) =>
          m === plain(s.label) || m === plain(sizeTitle(s)) || m === plain(sizeTitle(s)).replace('×', 'x'),
      )
    );
  });
  if (fits.length === 1) return accept(fits[0]!);
  const names = (list: readonly Setup[], sizes: boolean): string =>
    list.map((s) => `“${setupTitle(s)}${sizes ? ` / ${sizeTitle(s)}` : ''}”`).join(', ');
  if (fits.length > 1)
    return refuse(`Several setups are called “${words}”. Name one of ${names(fits, true)}.`);
  return refuse(
    all.length === 0
      ? 'No setup is on the bench.'
      : `No setup is called “${words}”. On the bench are ${names(all, false)}.`,
  );
}
