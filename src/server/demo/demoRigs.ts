import { SHEET_FRAME } from '@/core/daily';
import type { Terms } from '@/core/fit';
import type { SimulatedRoll } from '@/core/rigsim';
import type { RigDraft } from '@/server/setups/shapes';

export const PLUMB: Terms = {
  shiftXMm: 0,
  shiftYMm: 0,
  turnRad: 0,
  scaleAcross: 1,
  scaleAlong: 1,
  leanRad: 0,
};

export interface DemoRig {
  readonly roll?: SimulatedRoll;
  readonly input: RigDraft;
  readonly truth: Partial<Terms>;
  readonly seed: number;
}

export const DESK: DemoRig = {
  seed: 11,
  truth: { shiftXMm: 0.62, shiftYMm: -0.47, turnRad: 0.0006, scaleAlong: 1.0011, leanRad: 0.0003 },
  input: {
    name: 'Deck-plan desk rig',
    printer: 'desktop inkjet, chart room',
    cutter: 'small cutter with mat',
    fileFrame: SHEET_FRAME,
    media: 'matt paper 160 g',
    sheetWidthMm: 210,
    sheetHeightMm: 297,
    marginLeftMm: 10,
    marginNearMm: 15,
    areaWidthMm: 190,
    areaHeightMm: 267,
    toleranceMm: 0.4,
    marks: {
      count: 3,
      shape: 'bracket',
      sizeMm: 8,
      lineMm: 0.6,
      colour: '#000000',
      insetLeftMm: 12,
      insetRightMm: 12,
      insetNearMm: 12,
      insetFarMm: 12,
      clearMm: 2,
      leading: 'near left',
      leadSign: 'underlined',
      everyMm: null,
      printerEdgeMm: 4,
      sensorEdgeMm: 6,
    },
    recipe: { tray: 'rear, single sheets', face: 'bright side up', paperType: 'heavy matt', quality: 'high' },
    settings: [
      {
        name: 'Offset X',
        unit: 'mm',
        step: 0.05,
        value: 1.15,
        min: -5,
        max: 5,
        display: 'signed',
        direction: 'right',
      },
      {
        name: 'Offset Y',
        unit: 'mm',
        step: 0.05,
        value: 4.7,
        min: -5,
        max: 5,
        display: 'signed',
        direction: 'back',
      },
    ],
  },
};

export const HONEY: DemoRig = {
  seed: 23,
  truth: { shiftXMm: -0.31, shiftYMm: 0.22, scaleAcross: 0.9994 },
  input: {
    ...DESK.input,
    name: 'Honey-label desk rig',
    printer: 'label inkjet, ticket office',
    cutter: 'small cutter, ticket office',
    // Nobody told yet: it is asked with the first file.
    fileFrame: null,
    media: 'gloss label sheet',
    areaHeightMm: 260,
    toleranceMm: 0.5,
    marks: null,
    recipe: { tray: 'cassette', face: 'label side down', paperType: 'gloss', quality: 'standard' },
    settings: [
      {
        name: 'Side',
        unit: 'mm',
        step: 0.1,
        value: -0.2,
        min: -9.9,
        max: 9.9,
        display: 'sign-and-size',
        direction: 'left',
      },
      {
        name: 'Feed',
        unit: 'mm',
        step: 0.1,
        value: 0.1,
        min: -9.9,
        max: 9.9,
        display: 'sign-and-size',
        direction: 'further',
      },
    ],
  },
};

/** What the roll rig does along a roll: creep on the feed, a little to the side. */
export const ROLL_DRIFT: SimulatedRoll = {
  creepMmPerM: { x: -0.03, y: 0.28 },
  creepSdMmPerM: { x: 0.02, y: 0.05 },
  wanderMm2PerM: 0.004,
};

export const ROLL: DemoRig = {
  seed: 37,
  roll: ROLL_DRIFT,
  truth: { shiftXMm: 0.4, shiftYMm: 0.35, turnRad: 0.0001, scaleAlong: 1.0001 },
  input: {
    name: 'Roll rig',
    printer: '1.37 m roll printer',
    cutter: 'wide cutter, slipway end',
    fileFrame: { xRuns: 'further', yRuns: 'left', zero: { at: 'corner', corner: 'near right' } },
    media: 'gloss white vinyl',
    sheetWidthMm: 1370,
    sheetHeightMm: 1000,
    marginLeftMm: 30,
    marginNearMm: 60,
    areaWidthMm: 1310,
    areaHeightMm: 880,
    toleranceMm: 0.5,
    marks: {
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
    },
    recipe: {
      paperType: 'cast gloss vinyl',
      quality: '8 passes',
      warmUp: 'heater 38 °C, 10 min',
      room: '21 °C, 50 %',
    },
    settings: [
      {
        name: 'Offset X',
        unit: 'mm',
        step: 0.1,
        value: 0.3,
        min: -20,
        max: 20,
        display: 'signed',
        direction: 'left',
      },
      {
        name: 'Offset Y',
        unit: 'mm',
        step: 0.1,
        value: -0.6,
        min: -20,
        max: 20,
        display: 'signed',
        direction: 'further',
      },
      {
        name: 'Feed length',
        kind: 'length',
        unit: 'mm',
        step: 0.1,
        value: 500,
        min: 490,
        max: 510,
        display: 'signed',
        direction: 'shorter',
        anchorYMm: 75,
        nominalMm: 500,
      },
    ],
  },
};

/** Hull decals for windows: printed reversed on clear film, on the roll rig. */
export const CLEAR = {
  seed: 41,
  media: 'clear film, reversed',
  toleranceMm: 0.5,
  truth: { shiftXMm: 0.15, shiftYMm: 0.5, turnRad: 0.0001, scaleAlong: 1.0001 },
};
