import type { Point } from '../geometry';

/** A picture for print or preview: sheet frame, mm, y up. Writers turn y over. */
export interface Scene {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly title: string;
  readonly marks: readonly Mark[];
}

export type Mark =
  | {
      readonly kind: 'line';
      readonly from: Point;
      readonly to: Point;
      readonly widthMm: number;
      readonly ink: Ink;
      /** Instead of the ink's own colour. */
      readonly colour?: string;
    }
  | {
      readonly kind: 'disc';
      readonly centre: Point;
      readonly radiusMm: number;
      readonly ink: Ink;
      readonly colour?: string;
    }
  | {
      readonly kind: 'ring';
      readonly centre: Point;
      readonly radiusMm: number;
      readonly widthMm: number;
      readonly ink: Ink;
      /** Instead of the ink's own colour. */
      readonly colour?: string;
    }
  | {
      readonly kind: 'polygon';
      readonly points: readonly Point[];
      readonly filled: boolean;
      readonly widthMm: number;
      readonly ink: Ink;
      /** Instead of the ink's own colour. */
      readonly colour?: string;
    }
  | {
      readonly kind: 'text';
      readonly at: Point;
      readonly text: string;
      readonly sizeMm: number;
      readonly anchor: 'start' | 'middle' | 'end';
      readonly bold?: boolean;
      readonly turnDeg?: 0 | 90;
      readonly ink: Ink;
      /** Instead of the ink's own colour. */
      readonly colour?: string;
    };

export type Ink = 'print' | 'text' | 'cut' | 'mark';

/** Print indigo, near-black text, cut ochre; the cut layer is never printed. */
export const INK_COLOURS: Readonly<Record<Ink, string>> = {
  print: '#33409a',
  text: '#17202a',
  cut: '#a86a0c',
  mark: '#000000',
};

export const colourOf = (mark: Mark): string => mark.colour ?? INK_COLOURS[mark.ink];
