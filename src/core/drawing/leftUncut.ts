/** Why something that is drawn in a file is no cut line. */
export type NotCut =
  /** SVG: display or visibility, its own or of a group. */
  | 'hidden'
  /** SVG: opacity 0, its own or of a group, or of all that it is painted with. */
  | 'see-through'
  /** SVG: neither line nor fill. */
  | 'unpainted'
  /** DXF: its layer is switched off. */
  | 'layer-off'
  /** DXF: its layer, or that of the block it is copied from, is frozen. */
  | 'layer-frozen'
  /** DXF: its layer is for the screen only. */
  | 'layer-not-plotted'
  /** DXF: the entity itself is switched off. */
  | 'invisible';

/** What was left uncut of one layer for one reason. */
export interface LeftUncut {
  readonly layer: string;
  readonly why: NotCut;
  readonly lines: number;
}
