import { DXF } from './dxf/format';
import type { CutFileFormat } from './format';
import type { CutFormat } from './formats';
import { HPGL } from './hpgl/format';
import { SVG } from './svg/format';

/** The formats of cut files with their readers and writers, once. */
export const CUT_FILE_FORMATS = { svg: SVG, dxf: DXF, hpgl: HPGL } as const satisfies {
  readonly [F in CutFormat]: CutFileFormat<F, unknown>;
};

type RefusalOf<F> = F extends CutFileFormat<string, infer R> ? R : never;

/** What a file of any format may be refused for. */
export type FormatRefusal = RefusalOf<(typeof CUT_FILE_FORMATS)[CutFormat]>;
