import { USUAL_POLICY } from '@/core/control';
import type { MarkKit } from '@/core/marks';
import { declaredEffect, type DeclaredEffect } from '../src/core/correction';
import type { Setup, SetupSetting } from '../src/server/setups/setup';
import { machineWordsSchema, recipeSchema } from '../src/server/setups/shapes';
import { rollKitSchema } from '../src/core/setup/kitShapes';

/** A rig with nothing special about it, for view models. */
export const plainSetup = (more: Partial<Setup> = {}): Setup => ({
  id: 'setup',
  rigId: 'rig',
  name: 'Roll rig',
  label: '',
  printer: 'printer',
  cutter: 'cutter',
  media: 'gloss white vinyl',
  mediaId: 'medium',
  sheetWidthMm: 1370,
  sheetHeightMm: 1000,
  workArea: { x0: 30, y0: 60, x1: 1340, y1: 940 },
  toleranceMm: 0.5,
  changeable: 'settings-and-file',
  fileFrame: null,
  checkAfter: USUAL_POLICY,
  mediaClass: 'film',
  marks: null,
  tool: null,
  mat: null,
  grip: null,
  mirrored: false,
  driverPage: null,
  reachMm: null,
  bobFirst: null,
  recipe: recipeSchema.parse({}),
  roll: rollKitSchema.parse({}),
  feedPercent: null,
  feedSetAt: null,
  settings: [],
  standing: {
    id: 'standing',
    fileTransform: null,
    source: 'as-found',
    sessionId: null,
    r95Mm: null,
    by: 'IM',
    since: new Date(0),
  },
  simulated: false,
  archived: false,
  version: 1,
  ...more,
});

/** An offset to the right, in steps of 0.05 mm. */
export const plainSetting = (more: Partial<SetupSetting> = {}): SetupSetting => {
  const declared: DeclaredEffect = {
    kind: 'offset',
    unit: 'mm',
    direction: 'right',
    anchor: { x: 0, y: 0 },
    nominalMm: null,
  };
  return {
    ...declared,
    id: 'x',
    name: 'Offset X',
    step: 0.05,
    value: 0,
    wanted: 0,
    min: null,
    max: null,
    display: 'signed',
    directionKnown: true,
    kept: 'one',
    on: 'cutter',
    words: machineWordsSchema.parse({}),
    effect: declaredEffect(declared),
    ...more,
  };
};

/** Four marks, as a roll rig reads them. */
export const ROLL_MARKS: MarkKit = {
  count: 4,
  shape: 'disc',
  sizeMm: 10,
  lineMm: 0.5,
  colour: '#000000',
  insetLeftMm: 45,
  insetRightMm: 45,
  insetNearMm: 75,
  insetFarMm: 75,
  clearMm: 8,
  leading: 'near left',
  leadSign: 'doubled',
  everyMm: null,
  printerEdgeMm: 8,
  sensorEdgeMm: 15,
};

/** A roll rig as its form would send it. */
export const ROLL_DRAFT = {
  name: 'Roll rig',
  printer: 'roll printer',
  cutter: 'wide cutter',
  media: 'gloss white vinyl',
  sheetWidthMm: 1370,
  sheetHeightMm: 1000,
  marginLeftMm: 30,
  marginNearMm: 60,
  areaWidthMm: 1310,
  areaHeightMm: 880,
  toleranceMm: 0.5,
  marks: ROLL_MARKS,
  settings: [],
};

/** Two marks a sheet, as a desk rig has them. */
export const TWO_MARKS: MarkKit = {
  ...{ count: 2, shape: 'bracket', sizeMm: 8, lineMm: 0.8, colour: '#000000' },
  ...{ insetLeftMm: 14, insetRightMm: 14, insetNearMm: 14, insetFarMm: 14, clearMm: 4 },
  ...{ leading: 'near right', leadSign: 'none', everyMm: null, printerEdgeMm: 3, sensorEdgeMm: 8 },
};
