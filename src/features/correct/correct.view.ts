import { setupWords } from '@/core/setup/inLists';
import { frameMap, frameWords } from '@/core/daily';
import type { FileReport } from '@/core/drawing/file';
import { decompose } from '@/core/fit';
import { applyAffine, invertAffine, rectCentre, type Affine, type Rect } from '@/core/geometry';
import { markOutline, markPlaces } from '@/core/marks';
import { sameFigure } from '@/core/setup';
import { degrees, fixed, lengthText, offsetText, placesOfStep, type LengthUnit } from '@/core/units';
import type { Setup } from '@/server/setups/setup';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import { sizeWords } from '@/ui/words/sizeWords';
import { FORMATS } from '@/core/drawing/formats';

/** A setup as the desk that corrects files needs it: plain, for the browser. */
export interface DeskSetup {
  readonly id: string;
  readonly rigId: string;
  readonly words: string;
  readonly media: string;
  /** What its files carry, in one line; null where they need no change. */
  readonly carries: string | null;
  /** How its files lie, in one line; null while nobody told. */
  readonly lies: string | null;
  readonly show: readonly ShowRow[];
  readonly picture: {
    readonly widthMm: number;
    readonly heightMm: number;
    readonly marks: readonly Rect[];
    readonly map: Affine | null;
  };
}

/** A figure that the machine has to show while the files are cut. */
export interface ShowRow {
  readonly id: string;
  readonly name: string;
  readonly wanted: number;
  readonly words: string;
  /** What it shows instead, as far as is known; null when it shows what is wanted. */
  readonly instead: string | null;
}

export function deskSetup(setup: Setup, unit: LengthUnit): DeskSetup {
  const { sheetWidthMm, sheetHeightMm, marks, fileFrame } = setup;
  const sheet = { sheetWidthMm, sheetHeightMm };
  return {
    id: setup.id,
    rigId: setup.rigId,
    words: `${setupWords(setup)}, ${sizeWords(setup, unit)}`,
    media: setup.media,
    carries: carriesWords(setup.standing.fileTransform, rectCentre(setup.workArea), unit),
    lies: fileFrame && frameWords(fileFrame, unit),
    show: setup.settings.map((s) => {
      const figure = (value: number): string => fixed(value, placesOfStep(s.step));
      return {
        id: s.id,
        name: s.name,
        wanted: s.wanted,
        words: `${figure(s.wanted)} ${UNIT_WORDS[s.unit]}`,
        instead: sameFigure(s.value, s.wanted, s.step) ? null : figure(s.value),
      };
    }),
    picture: {
      widthMm: sheetWidthMm,
      heightMm: sheetHeightMm,
      marks: marks === null ? [] : markPlaces(marks, sheet).map((p) => markOutline(marks, p)),
      map: fileFrame && frameMap(fileFrame, { ...sheet, marks }),
    },
  };
}

/** Half of what is shown last counts as nothing. */
const NOTHING_OF_A_HUNDREDTH = 0.005;

/** What is done to a file that carries a correction: T of the sheet, told about the middle of the work area. */
export function carriesWords(
  transform: Affine | null,
  centre: { readonly x: number; readonly y: number },
  unit: LengthUnit,
): string | null {
  if (transform === null) return null;
  const k = invertAffine(transform);
  const to = applyAffine(k, centre);
  const [dx, dy] = [to.x - centre.x, to.y - centre.y];
  const { turnRad, scaleAcross, scaleAlong, leanRad } = decompose(k);
  const enough = (hundredths: number): boolean => Math.abs(hundredths) >= NOTHING_OF_A_HUNDREDTH;
  const share = (scale: number): string => `${fixed(Math.abs(100 * (scale - 1)), 2)} %`;
  const turned = degrees(turnRad);
  const leant = degrees(leanRad);
  const moved = [
    ...(enough(dx) ? [offsetText(dx, 'across', unit)] : []),
    ...(enough(dy) ? [offsetText(dy, 'along', unit)] : []),
  ];
  const parts = [
    ...(moved.length > 0 ? [`moved ${moved.join(' and ')}`] : []),
    ...(enough(turned)
      ? [`turned ${fixed(Math.abs(turned), 2)}° ${turned > 0 ? 'anticlockwise' : 'clockwise'}`]
      : []),
    ...(enough(100 * (scaleAcross - 1))
      ? [`${share(scaleAcross)} ${scaleAcross > 1 ? 'wider' : 'narrower'}`]
      : []),
    ...(enough(100 * (scaleAlong - 1))
      ? [`${share(scaleAlong)} ${scaleAlong > 1 ? 'longer' : 'shorter'}`]
      : []),
    ...(enough(leant) ? [`leant ${fixed(Math.abs(leant), 2)}° to the ${leant > 0 ? 'right' : 'left'}`] : []),
  ];
  return parts.length === 0
    ? 'They come back moved by less than a hundredth of a millimetre.'
    : `They come back ${parts.join(', ')}.`;
}

/** “The machine must show Offset X 0.85 mm and Offset Y 4.60 mm.” */
export const mustShowWords = (show: readonly ShowRow[]): string =>
  show.length === 0
    ? 'These machines take no figures.'
    : `While they are cut the machine must show ${show.map((s) => `${s.name} ${s.words}`).join(' and ')}.`;

/** How far a drawing reaches over the sheet, when it does. */
export const overWords = (overMm: number, unit: LengthUnit): string | null =>
  overMm > 0.05
    ? `It reaches ${lengthText(overMm, unit)} over the edge of the sheet. Is its zero where the rig’s page says?`
    : null;

/** Layers with lines that the file hides: each can be cut all the same where layers have a state. */
export const layersToCut = ({ from, leftUncut }: Pick<FileReport, 'from' | 'leftUncut'>): string[] =>
  FORMATS[from].layerStates ? [...new Set(leftUncut.map((l) => l.layer))] : [];
