import type { Rect } from '../geometry';
import type { Grip, Wear } from './vocabulary';

export interface Extent {
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Everything that has a size where a sheet is printed and cut. Lengths in mm; null where nobody told. */
export interface Sizes {
  readonly sheet: Extent;
  readonly workArea: Rect;
  /** The page that the printer’s driver is set to. */
  readonly driverPage: Extent | null;
  /** The widest that the cutter’s carriage reaches. */
  readonly reachMm: number | null;
  readonly mat: (Extent & { readonly name: string; readonly grip: Grip; readonly wear: Wear }) | null;
  /** How strongly the medium wants to be held; null where it needs no mat or nobody told. */
  readonly grip: Grip | null;
}

/** Sizes that are typed in inches and compared in mm. */
const SAME_MM = 0.5;
const HOLDS: readonly Grip[] = ['light', 'standard', 'strong'];

const size = ({ widthMm, heightMm }: Extent): string =>
  `${Number(widthMm.toFixed(1))} × ${Number(heightMm.toFixed(1))} mm`;
const larger = (a: Extent, b: Extent): boolean =>
  a.widthMm > b.widthMm + SAME_MM || a.heightMm > b.heightMm + SAME_MM;

/** What does not go together, a sentence each; empty when all of it does. Common practice, no source. */
export function sizeFindings({ sheet, workArea, driverPage, reachMm, mat, grip }: Sizes): string[] {
  const found: string[] = [];
  if (driverPage && (larger(driverPage, sheet) || larger(sheet, driverPage)))
    found.push(
      `The printer’s driver is set to ${size(driverPage)}, the sheet is ${size(sheet)}: it will be moved or scaled. Set the driver to the sheet.`,
    );
  if (reachMm !== null && workArea.x1 - workArea.x0 > reachMm + SAME_MM)
    found.push(
      `The work area is ${Number((workArea.x1 - workArea.x0).toFixed(1))} mm wide, the cutter reaches ${Number(reachMm.toFixed(1))} mm: make the work area narrower.`,
    );
  if (mat && larger(sheet, mat))
    found.push(`The sheet of ${size(sheet)} stands over the mat ${mat.name}, which is ${size(mat)}.`);
  if (mat?.wear === 'worn')
    found.push(`The mat ${mat.name} is worn: sheets shift on it. Clean it or take another.`);
  if (mat && grip && mat.grip !== grip)
    found.push(
      HOLDS.indexOf(mat.grip) > HOLDS.indexOf(grip)
        ? `The mat ${mat.name} holds ${mat.grip}, the medium wants ${grip}: it may tear or curl when it is taken off.`
        : `The mat ${mat.name} holds ${mat.grip}, the medium wants ${grip}: it may shift under the tool.`,
    );
  return found;
}
