import type { CheckPolicy } from '@/core/control';
import type { FileFrame } from '@/core/daily';
import type { DeclaredEffect, MachineSetting } from '@/core/correction';
import type { MediaClass } from '@/core/drift';
import type { Affine, Rect } from '@/core/geometry';
import type { MarkKit } from '@/core/marks';
import type {
  Changeable,
  Extent,
  Grip,
  Wear,
  Kept,
  MachineRole,
  MachineWords,
  ShownSetting,
  StandingSource,
} from '@/core/setup';

import type { PrintRecipe } from './shapes';
import type { RollKit } from '@/core/setup/kitShapes';

/** A figure that a machine takes: what it is, what it shows now, and what this setup wants it to show. */
export interface SetupSetting extends MachineSetting, DeclaredEffect, ShownSetting {
  readonly display: 'signed' | 'sign-and-size';
  /** Which way it goes is declared, or was seen in a push; else nothing is to be typed into it yet. */
  readonly directionKnown: boolean;
  readonly kept: Kept;
  /** Which machine of the rig it is typed into. */
  readonly on: MachineRole;
  /** The machine’s own words for it; empty where nobody noted any. */
  readonly words: MachineWords;
}

/** What a setup’s cut files carry from day to day, and where that came from. */
export interface StandingCorrection {
  readonly id: string;
  readonly fileTransform: Affine | null;
  readonly source: StandingSource;
  readonly sessionId: string | null;
  /** 95 of 100 cuts stayed within this when it was made; null when nothing was proved then. */
  readonly r95Mm: number | null;
  readonly by: string;
  readonly since: Date;
}

/** A rig with one medium and size on it: what is calibrated, checked and run. */
export interface Setup {
  readonly id: string;
  readonly rigId: string;
  /** The rig’s name. */
  readonly name: string;
  /** What tells it from another of the same medium and size; mostly empty. */
  readonly label: string;
  readonly printer: string;
  readonly cutter: string;
  readonly media: string;
  readonly mediaId: string;
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
  readonly workArea: Rect;
  readonly toleranceMm: number;
  readonly changeable: Changeable;
  readonly marks: MarkKit | null;
  /** The tool that its correction is proved with; null while the cutter has one only. */
  readonly tool: { readonly id: string; readonly name: string } | null;
  readonly mat:
    | (Extent & { readonly id: string; readonly name: string; readonly grip: Grip; readonly wear: Wear })
    | null;
  /** How strongly the medium wants to be held; null where it needs no mat or nobody told. */
  readonly grip: Grip | null;
  /** Its art is printed reversed. */
  readonly mirrored: boolean;
  /** The page that the printer’s driver is set to; null while nobody told. */
  readonly driverPage: Extent | null;
  /** The widest that the cutter reaches, mm; null where nobody told. */
  readonly reachMm: number | null;
  /** How the rig’s cut files lie on the sheet; null while nobody told. */
  readonly fileFrame: FileFrame | null;
  /** When it asks to be checked. */
  readonly checkAfter: CheckPolicy;
  /** Whether the near edge, the bob’s, leaves the printer first; null until somebody has looked. */
  readonly bobFirst: boolean | null;
  /** Its media for drift, until the log knows better. */
  readonly mediaClass: MediaClass;
  readonly recipe: PrintRecipe;
  readonly roll: RollKit;
  /** The printer's feed compensation, %, and since when it is so; null while nobody told. */
  readonly feedPercent: number | null;
  readonly feedSetAt: Date | null;
  readonly settings: readonly SetupSetting[];
  readonly standing: StandingCorrection;
  readonly simulated: boolean;
  readonly archived: boolean;
  readonly version: number;
}

/** A printer and a cutter, with what they show now and the setups that they are used with. */
export interface Rig {
  readonly id: string;
  readonly name: string;
  readonly printer: string;
  readonly cutter: string;
  readonly printerId: string;
  readonly cutterId: string;
  readonly changeable: Changeable;
  readonly fileFrame: FileFrame | null;
  /** When it asks to be checked. */
  readonly checkAfter: CheckPolicy;
  /** Counts every change of it and of its machines: what a form has to know to save over it. */
  readonly version: number;
  /** The setups in use, oldest first. */
  readonly setups: readonly Setup[];
  /** What it was changed over to last; null when nobody ever said so. */
  readonly onIt: { readonly setupId: string; readonly by: string; readonly at: Date } | null;
}
