import { DXF_FACTS } from './dxf/facts';
import { HPGL_FACTS } from './hpgl/facts';
import { SVG_FACTS } from './svg/facts';

/* The formats of cut files by name: who offers or describes files asks here, who reads or writes them `registry.ts`. */

export const FORMATS = { svg: SVG_FACTS, dxf: DXF_FACTS, hpgl: HPGL_FACTS } as const;

export type CutFormat = keyof typeof FORMATS;

/** For shapes that want a list of names. */
export const CUT_FORMATS = Object.keys(FORMATS) as [CutFormat, ...CutFormat[]];

/** “image/svg+xml” for a browser or a script. */
export const mediaTypeOf = (format: CutFormat): string => FORMATS[format].mediaType;

const labels = CUT_FORMATS.map((f) => FORMATS[f].label);

/** “SVG, DXF or HPGL”. */
export const FORMAT_WORDS = `${labels.slice(0, -1).join(', ')} or ${labels.at(-1)}`;

/** What a file chooser lets through. */
export const CUT_FILE_SUFFIXES: readonly string[] = CUT_FORMATS.flatMap((f) => FORMATS[f].suffixes);

/** The format that a file's name ends in; null where it is none. */
export const formatNamed = (fileName: string): CutFormat | null =>
  CUT_FORMATS.find((f) => FORMATS[f].suffixes.some((s) => fileName.toLowerCase().endsWith(s))) ?? null;
