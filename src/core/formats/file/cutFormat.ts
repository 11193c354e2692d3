export const CUT_FORMATS = ['svg', 'dxf', 'hpgl'] as const;
export type CutFormat = (typeof CUT_FORMATS)[number];
