import type { DeclaredEffect, MachineSetting } from '@/core/correction';
import type { MediaClass } from '@/core/drift';
import type { Rect } from '@/core/geometry';
import type { MarkKit } from '@/core/marks';

import type { Changeable, PrintRecipe } from './shapes';
import type { RollKit } from '@/shapes/kits';

export interface RigSetting extends MachineSetting, DeclaredEffect {
  readonly display: 'signed' | 'sign-and-size';
}

export interface Rig {
  readonly id: string;
  readonly name: string;
  readonly printer: string;
  readonly cutter: string;
  readonly media: string;
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
  readonly workArea: Rect;
  readonly toleranceMm: number;
  readonly changeable: Changeable;
  readonly marks: MarkKit | null;
  /** Whether the near edge, the bob’s, leaves the printer first; null until somebody has looked. */
  readonly bobFirst: boolean | null;
  /** Its media for drift, until the log knows better. */
  readonly mediaClass: MediaClass;
  readonly recipe: PrintRecipe;
  readonly roll: RollKit;
  /** The printer's feed compensation, %, and since when it is so; null while nobody told. */
  readonly feedPercent: number | null;
  readonly feedSetAt: Date | null;
  readonly settings: readonly RigSetting[];
  readonly simulated: boolean;
  readonly archived: boolean;
  readonly version: number;
}
